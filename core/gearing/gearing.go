package gearing

import (
	"fmt"
	"math"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Gear is a ratio, or the tooth pairs it is made of (driven over driving).
type Gear struct {
	Name  string   `json:"name"`
	Ratio float64  `json:"ratio,omitempty"`
	Teeth [][2]int `json:"teeth,omitempty"` // [driving, driven] in the order of the torque
}

// Set is one vehicle's gearing.
type Set struct {
	Gears  []Gear `json:"gears"`
	Final  Gear   `json:"final_drive"`
	Ranges []Gear `json:"ranges,omitempty"` // of the transfer case; missing: one, 1:1
	Tyre   Tyre   `json:"tyre"`
}

// GearingIn asks what a set of gears does on the road, and beside another.
type GearingIn struct {
	Set
	Speeds  []Rotation      `json:"engine_speeds,omitempty"` // default 1000 rpm
	Limit   Rotation        `json:"engine_limit,omitzero"`
	At      Speed           `json:"road_speed,omitzero"`
	Compare *Set            `json:"compare,omitempty"`
	RunIn   Speed           `json:"run_in_top_speed,omitzero"` // cap in top gear
	Units   quantity.System `json:"units,omitempty" enum:"metric,inch,both"`
}

// GearOut is one gear in one range.
type GearOut struct {
	Range       string   `json:"range,omitempty"`
	Gear        string   `json:"gear"`
	Ratio       float64  `json:"ratio"`
	Overall     float64  `json:"overall"`
	Step        float64  `json:"step_from_last,omitempty"` // ratio before over this one
	Per1000     Speed    `json:"per_1000_rpm"`
	AtSpeeds    []Speed  `json:"at_engine_speeds,omitempty"`
	AtLimit     Speed    `json:"at_engine_limit,omitzero"`
	EngineAt    Rotation `json:"engine_at_road_speed,omitzero"`
	RunIn       Speed    `json:"run_in_cap,omitzero"`
	Hunting     *bool    `json:"hunting,omitempty"` // every tooth meets every other
	Compared    Speed    `json:"compared_per_1000_rpm,omitzero"`
	DifferenceP float64  `json:"difference_percent,omitempty"`
}

// GearingOut is the answer.
type GearingOut struct {
	Gears          []GearOut `json:"gears"`
	Rolling        Length    `json:"rolling_circumference"`
	RollingFrom    string    `json:"rolling_from"`
	Crawl          float64   `json:"crawl_ratio"`
	SpeedoPercent  float64   `json:"speedometer_percent,omitempty"` // true over shown, with the compared set's drive
	FinalIsHunting *bool     `json:"final_drive_hunting,omitempty"`
	Findings       []string  `json:"findings"`
}

// ratio of a gear: the product of its pairs. Hunting is told for one pair:
// the numbers of teeth have no common divisor.
func (g Gear) ratio(c *input.Checks, path string) (float64, *bool) {
	if len(g.Teeth) == 0 {
		return input.Number(c, path+".ratio", g.Ratio, 0.1, 200), nil
	}
	if g.Ratio != 0 {
		c.Add(path, "ratio or teeth", "both were given")
	}
	r := 1.0
	for i, pair := range g.Teeth {
		at := fmt.Sprintf("%s.teeth[%d]", path, i)
		if pair[0] < 5 || pair[1] < 5 || pair[0] > 300 || pair[1] > 300 {
			c.Add(at, "5 to 300 teeth on both gears", "%d and %d teeth cannot mesh", pair[0], pair[1])
			return 1, nil
		}
		r *= float64(pair[1]) / float64(pair[0])
	}
	if len(g.Teeth) != 1 {
		return r, nil
	}
	hunting := gcd(g.Teeth[0][0], g.Teeth[0][1]) == 1
	return r, &hunting
}

func gcd(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// chain is a set with its figures read.
type chain struct {
	gears, ranges []float64
	hunting       []*bool
	final         float64
	finalHunting  *bool
	turn          quantity.Length
	from          string
}

func (s Set) read(c *input.Checks, prefix string) chain {
	var out chain
	if len(s.Gears) < 1 || len(s.Gears) > 24 {
		c.Add(input.Join(prefix, "gears"), "1 to 24 gears", "%d gears", len(s.Gears))
	}
	for i, g := range s.Gears {
		r, hunting := g.ratio(c, input.Index(input.Join(prefix, "gears"), i))
		out.gears, out.hunting = append(out.gears, r), append(out.hunting, hunting)
	}
	out.final, out.finalHunting = s.Final.ratio(c, input.Join(prefix, "final_drive"))
	for i, g := range s.Ranges {
		r, _ := g.ratio(c, input.Index(input.Join(prefix, "ranges"), i))
		out.ranges = append(out.ranges, r)
	}
	if len(s.Ranges) > 4 {
		c.Add(input.Join(prefix, "ranges"), "up to 4", "%d ranges", len(s.Ranges))
	}
	if len(out.ranges) == 0 {
		out.ranges = []float64{1}
	}
	out.turn, out.from = s.Tyre.rolling(c, input.Join(prefix, "tyre"))
	return out
}

// speed on the road at an engine speed.
func (ch chain) speed(overall float64, engine quantity.Rotation) quantity.Speed {
	return quantity.Speed(float64(engine) / (2 * math.Pi) / overall * float64(ch.turn))
}

const thousand = quantity.Rotation(1000 * 2 * math.Pi / 60)

// Gearing gives overall ratios, road speed per 1000 rpm, at limits, the steps
// between gears and the crawl ratio: lowest gear x lowest range x final drive.
// Running-in caps follow from one engine speed, that of the cap in top gear.
// Source: kinematics; rolling circumference stated.
func Gearing(in GearingIn) (GearingOut, error) {
	var c input.Checks
	a := in.read(&c, "")
	var b *chain
	if in.Compare != nil {
		read := in.Compare.read(&c, "compare")
		b = &read
		if len(read.gears) != len(a.gears) {
			c.Add("compare.gears", "as many gears as the first set", "%d against %d", len(read.gears), len(a.gears))
		}
	}
	for i, s := range in.Speeds {
		input.Positive(&c, input.Index("engine_speeds", i), s, quantity.Rotation(20000*2*math.Pi/60))
	}
	if in.Limit.IsSaid() {
		input.Positive(&c, "engine_limit", in.Limit, quantity.Rotation(20000*2*math.Pi/60))
	}
	if in.At.IsSaid() {
		input.NotNegative(&c, "road_speed", in.At, 150)
	}
	if in.RunIn.IsSaid() {
		input.Positive(&c, "run_in_top_speed", in.RunIn, 150)
	}
	if b != nil && len(in.Ranges) != len(in.Compare.Ranges) {
		c.Add("compare.ranges", "as many ranges as the first set", "%d against %d", len(in.Compare.Ranges),
			len(in.Ranges))
	}
	if len(in.Speeds) > 20 {
		c.Add("engine_speeds", "up to 20", "%d speeds", len(in.Speeds))
	}
	if err := c.Err(); err != nil {
		return GearingOut{}, err
	}
	return in.answer(a, b), nil
}

// GearingMethod is Gearing as the catalogue lists it.
var GearingMethod = calculator.Define(examples, calculator.About{
	Name: "gearing", Version: 1,
	Purpose: "what a set of gears does on the road: speeds, steps, crawl ratio, and beside another set",
	Formula: "speed = engine speed/(gear·range·final)·rolling circumference; crawl = lowest " +
		"gear·range·final; hunting when tooth counts share no divisor",
	Assumes: "rolling circumference = free diameter·0.96·π unless measured",
	Sources: []string{"kinematics", "4 % loss of a loaded tyre: " + calculator.Practice},
}, Gearing)

func (in GearingIn) answer(a chain, b *chain) GearingOut {
	system := in.Units
	if system == "" {
		system = familyOf(in)
	}
	out := GearingOut{Rolling: quantity.In(a.turn, system), RollingFrom: a.from, Findings: []string{},
		FinalIsHunting: a.finalHunting}
	top := a.gears[len(a.gears)-1]
	for r, rng := range a.ranges {
		for i, g := range a.gears {
			row := in.row(a, i, g*rng*a.final, system, top*rng*a.final)
			if len(in.Ranges) > 0 {
				row.Range = in.Ranges[r].Name
			}
			if b != nil {
				other := b.speed(b.gears[i]*b.ranges[min(r, len(b.ranges)-1)]*b.final, thousand)
				row.Compared = quantity.In(other, system)
				row.DifferenceP = 100 * (float64(other)/float64(a.speed(g*rng*a.final, thousand)) - 1)
			}
			out.Gears = append(out.Gears, row)
			out.Crawl = math.Max(out.Crawl, g*rng*a.final)
		}
	}
	if b != nil {
		out.SpeedoPercent = 100 * float64(b.turn) / float64(a.turn) * a.final / b.final
	}
	if a.finalHunting != nil && !*a.finalHunting {
		out.Findings = append(
			out.Findings,
			"the same final drive teeth always meet: mark them and keep their timing",
		)
	}
	return out
}

func familyOf(in GearingIn) quantity.System {
	if in.At.IsSaid() {
		return quantity.Family(in.At.Unit)
	}
	if in.RunIn.IsSaid() {
		return quantity.Family(in.RunIn.Unit)
	}
	return quantity.Metric
}

func (in GearingIn) row(a chain, i int, overall float64, system quantity.System, topOverall float64) GearOut {
	row := GearOut{
		Gear: in.Gears[i].Name, Ratio: a.gears[i], Hunting: a.hunting[i],
		Overall: overall, Per1000: quantity.In(a.speed(overall, thousand), system),
	}
	if i > 0 {
		row.Step = a.gears[i-1] / a.gears[i]
	}
	for _, s := range in.Speeds {
		row.AtSpeeds = append(row.AtSpeeds, quantity.In(a.speed(overall, s.SI()), system))
	}
	if in.Limit.IsSaid() {
		row.AtLimit = quantity.In(a.speed(overall, in.Limit.SI()), system)
	}
	if in.At.IsSaid() {
		row.EngineAt = quantity.In(quantity.Rotation(float64(in.At.SI())/float64(a.turn)*overall*2*math.Pi), system)
	}
	if in.RunIn.IsSaid() {
		row.RunIn = quantity.In(in.RunIn.SI()*quantity.Speed(topOverall/overall), system)
	}
	return row
}
