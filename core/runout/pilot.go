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
	Bush   Length `json:"bush"`               // inside diameter
	Shaft  Length `json:"shaft"`              // diameter of the input shaft's tip
	Runout Length `json:"runout,omitzero"`    // needle's swing in the bush over a turn
	Least  Length `json:"least,omitzero"`     // clearance, from the sheet
	Most   Length `json:"most,omitzero"`      // clearance, from the sheet
	Swing  Length `json:"swing_max,omitzero"` // of the needle, from the sheet
}

// Pilot tells how the input shaft's tip runs in its bush.
type Pilot struct {
	Clearance Length            `json:"clearance"`
	Verdict   metrology.Verdict `json:"verdict"` // of clearance and swing, where the sheet has limits
	Left      Length            `json:"left"`    // of the bore's offset, that the play does not take up
	Says      string            `json:"says"`
}

// pilot: the tip may stand aside by half the clearance. What the bore is off beyond
// that, the shaft carries into the bush at each turn. Source: geometry.
func (h housing) pilot(in PilotIn) (*Pilot, error) {
	var c input.Checks
	bush := input.Positive(&c, "pilot.bush", in.Bush, 100*quantity.Millimetre)
	shaft := input.Positive(&c, "pilot.shaft", in.Shaft, 100*quantity.Millimetre)
	if len(c.Fields) == 0 && shaft > bush {
		c.Add("pilot.shaft", "not above the bush", "%s does not go into %s", in.Shaft, in.Bush)
	}
	for _, f := range []struct {
		at string
		is Length
	}{{"runout", in.Runout}, {"least", in.Least}, {"most", in.Most}, {"swing_max", in.Swing}} {
		if f.is.IsSaid() {
			input.NotNegative(&c, "pilot."+f.at, f.is, 10*quantity.Millimetre)
		}
	}
	if in.Least.IsSaid() && in.Most.IsSaid() && in.Least.SI() > in.Most.SI() {
		c.Add("pilot.least", "not above most", "%s lies above %s", in.Least, in.Most)
	}
	if err := c.Err(); err != nil {
		return nil, err
	}
	clearance := float64(bush - shaft)
	left := max(0, math.Hypot(h.x, h.y)-clearance/2)
	p := &Pilot{Clearance: h.say(clearance), Left: h.say(left), Verdict: in.judge(clearance)}
	p.Says = in.says(*p, clearance)
	return p, nil
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
