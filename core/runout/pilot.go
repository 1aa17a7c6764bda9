package runout

import (
	"fmt"
	"math"

	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// PilotIn is what was measured of the pilot bush in the crankshaft.
type PilotIn struct {
	Bush   Length `json:"bush,omitzero"`      // inside diameter
	Shaft  Length `json:"shaft,omitzero"`     // diameter of the input shaft's tip
	Runout Length `json:"runout,omitzero"`    // needle's swing in the bush over a turn
	Least  Length `json:"least,omitzero"`     // clearance, from the sheet
	Most   Length `json:"most,omitzero"`      // clearance, from the sheet
	Swing  Length `json:"swing_max,omitzero"` // of the needle, from the sheet
}

// Pilot tells how the input shaft's tip runs in its bush.
type Pilot struct {
	Clearance Length            `json:"clearance,omitzero"` // once both diameters are said
	Verdict   metrology.Verdict `json:"verdict"`            // of clearance and swing, where the sheet has limits
	Left      Length            `json:"left,omitzero"`      // of the bore's offset, that the play does not take up
	Says      string            `json:"says"`
}

// pilot: the tip may stand aside by half the clearance. What the bore is off beyond
// that, the shaft carries into the bush at each turn. Source: geometry.
func (h housing) pilot(in PilotIn) (*Pilot, error) {
	if err := in.check(); err != nil {
		return nil, err
	}
	if !in.Bush.IsSaid() || !in.Shaft.IsSaid() {
		return &Pilot{Verdict: metrology.None, Says: "measure both: the bush inside, and the shaft's tip"}, nil
	}
	clearance := float64(in.Bush.SI() - in.Shaft.SI())
	left := max(0, math.Hypot(h.x, h.y)-clearance/2)
	p := &Pilot{Clearance: h.say(clearance), Left: h.say(left), Verdict: in.judge(clearance)}
	p.Says = in.says(*p, clearance)
	return p, nil
}

func (in PilotIn) check() error {
	var c input.Checks
	for _, f := range []struct {
		at   string
		is   Length
		most quantity.Length
	}{
		{"bush", in.Bush, 100}, {"shaft", in.Shaft, 100},
		{"runout", in.Runout, 10}, {"least", in.Least, 10}, {"most", in.Most, 10}, {"swing_max", in.Swing, 10},
	} {
		if f.is.IsSaid() {
			input.NotNegative(&c, "pilot."+f.at, f.is, f.most*quantity.Millimetre)
		}
	}
	if in.Bush.IsSaid() && in.Shaft.IsSaid() && in.Shaft.SI() > in.Bush.SI() {
		c.Add("pilot.shaft", "not above the bush", "%s does not go into %s", in.Shaft, in.Bush)
	}
	if in.Least.IsSaid() && in.Most.IsSaid() && in.Least.SI() > in.Most.SI() {
		c.Add("pilot.least", "not above most", "%s lies above %s", in.Least, in.Most)
	}
	return c.Err()
}

// judge holds clearance and swing against the sheet; as measured, without an uncertainty.
func (in PilotIn) judge(clearance float64) metrology.Verdict {
	fit := metrology.Open()
	if in.Least.IsSaid() {
		fit.Lower = float64(in.Least.SI())
	}
	if in.Most.IsSaid() {
		fit.Upper = float64(in.Most.SI())
	}
	swing := metrology.Open()
	if in.Swing.IsSaid() && in.Runout.IsSaid() {
		swing.Upper = float64(in.Swing.SI())
	}
	verdict := metrology.Judge(clearance, 0, fit)
	if v := metrology.Judge(in.Runout.DifferenceSI(), 0, swing); v == metrology.Out || verdict == metrology.None {
		return v
	}
	return verdict
}

func (in PilotIn) says(p Pilot, clearance float64) string {
	tight := in.Least.IsSaid() && clearance < float64(in.Least.SI())
	switch {
	case p.Verdict == metrology.Out && tight:
		return "the bush is tight: ream it or fit another, or the clutch drags"
	case p.Verdict == metrology.Out:
		return "fit a new pilot bush, and look at the shaft's tip"
	case p.Left.SI() > 0:
		return fmt.Sprintf("the tip's play takes up all but %s of the offset: that much wears the bush",
			sayShort(p.Left))
	}
	return "the tip's play takes up the offset"
}
