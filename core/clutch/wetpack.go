package clutch

import (
	"fmt"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/shim"
)

// WetPackIn asks which end plate a spring-applied wet pack wants: it is built with a
// trial plate, and the piston's travel is read while the pump lifts it to its stop.
// That travel is the clearance of the released pack.
type WetPackIn struct {
	Travel     []Length              `json:"travel"` // of the piston, with the trial plate in
	Instrument *metrology.Instrument `json:"instrument,omitempty"`
	Trial      Length                `json:"trial_plate"`     // the end plate in it
	Min        Length                `json:"clearance_min"`   // of the whole pack, released
	Max        Length                `json:"clearance_max"`   // of the whole pack, released
	Faces      int                   `json:"faces,omitempty"` // friction faces that share it
	Plates     []shim.StockItem      `json:"plates,omitempty"`
	Height     Length                `json:"height,omitzero"`   // of the pack under load, without the end plate
	Depth      Length                `json:"depth,omitzero"`    // of its room
	Springs    int                   `json:"springs,omitempty"` // in line, default 1
	Spring     *Spring               `json:"spring,omitempty"`  // with height and depth: what they press
}

// PlateRange are the end plates that land within the clearance.
type PlateRange struct {
	Min Length `json:"min"`
	Aim Length `json:"aim"`
	Max Length `json:"max"`
}

// PlateOffered is an end plate with what it would give.
type PlateOffered struct {
	Plate     Length            `json:"plate"` // its thickness
	Clearance Length            `json:"clearance"`
	Force     Force             `json:"spring_force,omitzero"`
	Verdict   metrology.Verdict `json:"verdict"`
}

// WetPackOut is the answer.
type WetPackOut struct {
	Clearance   Length            `json:"clearance"`
	Uncertainty Length            `json:"uncertainty,omitzero"`
	PerFace     Length            `json:"per_face,omitzero"`
	Verdict     metrology.Verdict `json:"verdict"`
	Plate       PlateRange        `json:"plate"`  // that lands within the clearance
	Plates      []PlateOffered    `json:"plates"` // of the drawer, best first
	Order       Length            `json:"order,omitzero"`
	Press       Length            `json:"precompression,omitzero"` // of the springs, with the trial plate
	Force       Force             `json:"spring_force,omitzero"`
	Says        string            `json:"says"`
}

// WetPack: a plate thicker by d leaves d less travel, and presses the springs by d
// more. plate = trial + travel − clearance. Source: geometry; the springs' force by
// EN 16984 / DIN 2092.
func WetPack(in WetPackIn) (WetPackOut, error) {
	var c input.Checks
	float, err := shim.EndFloat(shim.FloatIn{Readings: in.Travel, Instrument: in.Instrument, TrialPack: in.Trial,
		TargetMin: in.Min, TargetMax: in.Max, Sense: shim.PackReduces, Stock: in.Plates, MaxShims: 1})
	c.Fields = append(c.Fields, renamed(err)...)
	for i, t := range in.Travel {
		input.NotNegative(&c, input.Index("travel", i), t, 30*quantity.Millimetre)
	}
	input.Positive(&c, "clearance_min", in.Min, 20*quantity.Millimetre)
	if in.Faces < 0 || in.Faces > 60 {
		c.Add("faces", "1 to 60", "%d faces", in.Faces)
	}
	springs := in.springs(&c)
	if err := c.Err(); err != nil {
		return WetPackOut{}, err
	}
	out := WetPackOut{
		Clearance: Length{Any: float.Float.Mean}, Uncertainty: float.Uncertainty, Verdict: float.Verdict,
		Plate:  PlateRange{float.Required.Min, float.Required.Aim, float.Required.Max},
		Plates: []PlateOffered{}, Order: float.Order,
	}
	unit := in.Travel[0].Unit
	if in.Faces > 0 {
		out.PerFace = quantity.SayDifference(quantity.Length(out.Clearance.DifferenceSI()/float64(in.Faces)), unit)
	}
	if springs != nil {
		out.Press = quantity.SayDifference(quantity.Length(springs.by(in.Trial)), unit)
		out.Force = springs.force(in.Trial)
	}
	for _, p := range float.Packs {
		if p.Shims != 1 {
			continue
		}
		out.Plates = append(out.Plates, PlateOffered{p.Sum, p.Float, springs.force(p.Sum), p.Verdict})
	}
	out.Says = in.next(out)
	return out, nil
}

// WetPackMethod is WetPack as the catalogue lists it.
var WetPackMethod = calculator.Define(examples, calculator.About{
	Name:    "wet-pack",
	Version: 1,
	Purpose: "which end plate a spring-applied wet pack wants: released clearance by a trial plate, and what the springs press",
	Formula: "plate = trial + travel − clearance; pressed = height + plate + springs − depth; force by the disc-spring curve",
	Assumes: "the piston reaches its stop; springs in series, short of flat",
	Sources: []string{"geometry", "EN 16984 / DIN 2092"},
}, WetPack)

// renamed are the faults of the float as this calculator names its fields.
func renamed(err error) input.Fields {
	faults := input.Below("", err)
	names := strings.NewReplacer("readings", "travel", "trial_pack", "trial_plate", "target_", "clearance_",
		"stock", "plates")
	for i := range faults {
		faults[i].Path = names.Replace(faults[i].Path)
	}
	return faults
}

// pressing tells what a plate makes the springs do; without a spring nothing.
type pressing struct {
	de, di, t, h0 float64
	free          float64 // pressed without any plate, metres
	springs       int
	unit          *quantity.Unit
}

func (in WetPackIn) springs(c *input.Checks) *pressing {
	if in.Spring == nil {
		return nil
	}
	p := &pressing{springs: max(1, in.Springs), unit: in.Spring.De.Unit}
	p.de, p.di, p.t, p.h0 = in.Spring.check(c, "spring")
	height := float64(input.Positive(c, "height", in.Height, 500*quantity.Millimetre))
	depth := float64(input.Positive(c, "depth", in.Depth, 500*quantity.Millimetre))
	if in.Springs < 0 || in.Springs > 20 {
		c.Add("springs", "1 to 20", "%d springs", in.Springs)
	}
	p.free = pressed(height, depth, p.h0, p.t, p.springs)
	flat := float64(p.springs) * p.h0
	if now := p.by(in.Trial); len(c.Fields) == 0 && (!input.Over(now, 0) || input.Over(now, flat)) {
		c.Add("depth", "a depth that presses the springs short of flat", "with this plate they are pressed by %s",
			quantity.SayDifference(quantity.Length(now), in.Depth.Unit))
	}
	return p
}

// by is how far they are pressed with a plate, in metres.
func (p *pressing) by(plate Length) float64 { return p.free + plate.DifferenceSI() }

func (p *pressing) force(plate Length) Force {
	if p == nil {
		return Force{}
	}
	force := springForce(p.de, p.di, p.t, p.h0, p.by(plate)/float64(p.springs))
	return quantity.In(quantity.Force(force), quantity.Family(p.unit))
}

func (in WetPackIn) next(out WetPackOut) string {
	switch {
	case out.Verdict == metrology.In:
		return fmt.Sprintf("released it has %s: leave this plate in", short(out.Clearance))
	case out.Verdict == metrology.Undecided:
		return "too close to a limit to tell: read the travel again"
	case len(out.Plates) > 0 && out.Plates[0].Verdict != metrology.Out:
		return fmt.Sprintf("fit the plate of %s: expect a clearance of %s, and read it again",
			short(out.Plates[0].Plate), short(out.Plates[0].Clearance))
	case out.Plate.Max.DifferenceSI() <= 0:
		return "no plate is thin enough: look for a plate too many, or one that is not seated"
	}
	return fmt.Sprintf("order a plate of %s: from %s to %s will do", short(out.Plate.Aim), short(out.Plate.Min),
		short(out.Plate.Max))
}
