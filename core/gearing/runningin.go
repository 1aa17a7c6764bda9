package gearing

import (
	"fmt"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Stage of running in: up to a distance, with a share of the cap.
type Stage struct {
	Until Length  `json:"until"`
	Share float64 `json:"share"` // of the first cap; 1 begins, more later
}

// RunningIn asks for the caps and dates of running in.
type RunningIn struct {
	Gears  []Gear  `json:"gears"`
	Top    Speed   `json:"top_gear_cap"`
	Stages []Stage `json:"stages"`
	Change Length  `json:"fluid_change_at,omitzero"`
	Start  Length  `json:"odometer,omitzero"`
}

// Cap of one gear in one stage.
type Cap struct {
	Gear  string `json:"gear"`
	Speed Speed  `json:"speed"`
}

// StageOut is one stage as the customer reads it.
type StageOut struct {
	From   Length `json:"from"`
	Until  Length `json:"until"`
	Caps   []Cap  `json:"caps"`
	Reads  Length `json:"odometer_until,omitzero"`
	Plain  string `json:"says"`
	Change bool   `json:"fluid_change,omitempty"`
}

// RunningOut is the answer.
type RunningOut struct {
	Stages []StageOut `json:"stages"`
	Change Length     `json:"fluid_change_at,omitzero"`
	Says   string     `json:"says"`
}

// PlanRunningIn caps every gear by one engine speed, that of the cap in top
// gear, and loosens the cap from stage to stage. The fluid change falls into
// the stage that passes its distance. 500 miles and 30 mph in top are common
// practice for a classic box; an axle's oil is changed after 300 to 500 miles.
func PlanRunningIn(in RunningIn) (RunningOut, error) {
	ratios, err := in.read()
	if err != nil {
		return RunningOut{}, err
	}
	out := RunningOut{
		Change: in.Change,
		Says:   "drive gently, no full load; come back for the oil and look at the magnet",
	}
	from := quantity.Length(0)
	for _, s := range in.Stages {
		out.Stages = append(out.Stages, in.stage(s, from, ratios))
		from = s.Until.SI()
	}
	return out, nil
}

// PlanRunningInMethod is PlanRunningIn as the catalogue lists it.
var PlanRunningInMethod = calculator.Define(examples, calculator.About{
	Name: "running-in", Version: 1,
	Purpose: "speed caps per gear from one engine speed, stages by distance, and the fluid change",
	Formula: "cap of a gear = cap in top·top ratio/its ratio·share of the stage",
	Assumes: "gears in order, top last; stages that loosen",
	Sources: []string{"500 miles at 30/17/10 mph with 1/1.765/3.07: " + calculator.Practice},
}, PlanRunningIn)

// stage caps every gear at the engine speed of the cap in top gear, times the
// stage's share: v_i = share · v_top · i_top / i.
func (in RunningIn) stage(s Stage, from quantity.Length, ratios []float64) StageOut {
	stage := StageOut{From: quantity.Say(from, in.Stages[0].Until.Unit), Until: s.Until}
	for i, r := range ratios {
		stage.Caps = append(stage.Caps, Cap{in.Gears[i].Name,
			quantity.Say(in.Top.SI()*quantity.Speed(s.Share*ratios[len(ratios)-1]/r), in.Top.Unit)})
	}
	if in.Start.IsSaid() {
		stage.Reads = quantity.Say(in.Start.SI()+s.Until.SI(), in.Start.Unit)
	}
	stage.Change = in.Change.IsSaid() && in.Change.SI() > from && in.Change.SI() <= s.Until.SI()
	stage.Plain = fmt.Sprintf(
		"up to %s: no more than %.0f %s in %s", s.Until, stage.Caps[len(stage.Caps)-1].Speed.Value, in.Top.Unit.Symbol,
		in.Gears[len(in.Gears)-1].Name,
	)
	return stage
}

// read checks the plan and gives the gears' ratios.
func (in RunningIn) read() ([]float64, error) {
	var c input.Checks
	input.Positive(&c, "top_gear_cap", in.Top, 80)
	if len(in.Gears) < 1 || len(in.Gears) > 24 {
		c.Add("gears", "1 to 24 gears, top last", "%d gears", len(in.Gears))
	}
	var ratios []float64
	for i, g := range in.Gears {
		r, _ := g.ratio(&c, input.Index("gears", i))
		ratios = append(ratios, r)
	}
	if len(in.Stages) < 1 || len(in.Stages) > 10 {
		c.Add("stages", "1 to 10 stages", "%d stages", len(in.Stages))
	}
	last := in.readStages(&c)
	if in.Start.IsSaid() {
		input.NotNegative(&c, "odometer", in.Start, 1e10)
	}
	if in.Change.IsSaid() {
		if change := input.Positive(&c, "fluid_change_at", in.Change, 1e8); input.Over(change, last) {
			c.Add("fluid_change_at", "within the stages", "%s lies after running in", in.Change)
		}
	}
	return ratios, c.Err()
}

// readStages checks that distances and shares grow, and gives the last distance.
func (in RunningIn) readStages(c *input.Checks) (last quantity.Length) {
	share := 0.0
	for i, s := range in.Stages {
		at := input.Index("stages", i)
		until := input.Positive(c, at+".until", s.Until, 1e8)
		input.Number(c, at+".share", s.Share, 0.1, 3)
		if !input.Over(until, last) || s.Share < share {
			c.Add(at, "growing distances and shares", "a stage that steps back")
		}
		last, share = until, s.Share
	}
	return last
}
