package ringpinion

import (
	"fmt"
	"math"

	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/shim"
	"handwerk/core/solve"
)

// PackTried is a pack behind the bearings, with what they turned at.
type PackTried struct {
	Pack     Length   `json:"pack"`     // its thickness
	Readings []Torque `json:"readings"` // turning torque over a full turn
}

// PackWanted is the pack that brings the preload to the middle of its range.
type PackWanted struct {
	Min   Length           `json:"min"`
	Aim   Length           `json:"aim"`
	Max   Length           `json:"max"`
	Rise  Torque           `json:"rise"`  // of torque, for so much more pack as Per says
	Per   Length           `json:"per"`   // of pack that tightens
	Packs []shim.PackFound `json:"packs"` // of the drawer, best first
}

// firstPackStep is the change of pack that shows how the torque answers, where only one
// pack was tried. Common practice: 0.05 mm, 0.002 in.
const firstPackStep = 0.05 * quantity.Millimetre

// noTorque is less than any wrench shows: rounding, not preload.
const noTorque = 1e-6 * quantity.NewtonMetre

// mostPacksTried bounds a log of trials.
const mostPacksTried = 30

// checkTrials looks at the packs tried.
func (in PreloadIn) checkTrials(c *input.Checks) {
	if len(in.Trials) == 0 {
		return
	}
	if len(in.Trials) > mostPacksTried {
		c.Add("trials", "up to 30 packs", "%d packs", len(in.Trials))
	}
	if len(in.Readings)+len(in.Sleeve) > 0 {
		c.Add("trials", "each with its own readings, and no sleeve", "readings or a sleeve stand beside them")
	}
	switch in.Sense {
	case "", shim.PackReduces, shim.PackIncreases:
	default:
		c.Add("sense", "pack_reduces_float, pack_increases_float", "%q is neither", in.Sense)
	}
	for i, t := range in.Trials {
		at := input.Index("trials", i)
		input.NotNegative(c, at+".pack", t.Pack, shim.MaxThickness)
		if len(t.Readings) == 0 {
			c.Add(at+".readings", "turning torque over a full turn", "nothing was measured")
		}
		for j, r := range t.Readings {
			input.NotNegative(c, input.Index(at+".readings", j), r, maxTurning)
		}
	}
}

// tightens is 1 where a thicker pack tightens the bearings, −1 where it lets go.
func (in PreloadIn) tightens() quantity.Length {
	if in.Sense == shim.PackIncreases {
		return -1
	}
	return 1
}

// wantPack says which pack to fit. The torque rises with the pack from where the play
// is gone: a line by least squares through the trials that have preload.
func (in PreloadIn) wantPack(out *PreloadOut, drag quantity.Torque) error {
	last := in.Trials[len(in.Trials)-1]
	low := out.Preload.SI() < out.Range.Min.SI()
	switch {
	case out.Verdict == metrology.In:
		return nil
	case out.Verdict == metrology.Undecided && !low && out.Preload.SI() <= out.Range.Max.SI():
		out.Says = "near a limit: read it again over a full turn before another pack goes in"
		return nil
	case last.Pack.SI() == 0:
		out.Says = "say which pack is in it: without one nobody knows what to fit"
		return nil
	}
	tight := in.tight(drag)
	rise, ok := riseWithPack(tight)
	if !ok {
		out.Says = in.firstStep(last.Pack, low)
		return nil
	}
	if rise <= 0 {
		out.Says = "the torque does not rise with the pack: seat the rollers, look which way the pack works, read again"
		return nil
	}
	from := tight[len(tight)-1]
	pack := func(torque quantity.Torque) Length {
		thick := in.tightens() * (from.pack + quantity.Length(float64(torque-from.torque)/rise))
		return quantity.Say(max(0, thick), last.Pack.Unit)
	}
	middle := (out.Range.Min.SI() + out.Range.Max.SI()) / 2
	w := PackWanted{Min: pack(out.Range.Min.SI()), Aim: pack(middle), Max: pack(out.Range.Max.SI()),
		Per:  quantity.SayDifference(firstPackStep, last.Pack.Unit),
		Rise: quantity.SayDifference(quantity.Torque(rise*float64(firstPackStep)), out.Preload.Unit)}
	if in.tightens() < 0 {
		w.Min, w.Max = w.Max, w.Min
	}
	if w.Aim.SI() <= 0 {
		out.Says = "no pack is thin enough: look for a bearing that is not seated, or a wrong part"
		return nil
	}
	half := quantity.SayDifference(quantity.Length(math.Abs(float64(w.Max.SI()-w.Min.SI())/2)), last.Pack.Unit)
	found, err := shim.FindPack(shim.PackIn{Required: w.Aim, Tolerance: half, Stock: in.Stock})
	if err != nil {
		return err
	}
	w.Packs, out.Pack = found.Packs, &w
	first := ""
	if out.Verdict == metrology.Undecided {
		first = "read it again over a full turn; if it reads the same, "
	}
	expect := quantity.Say(middle, out.Preload.Unit)
	out.Says = fmt.Sprintf("%sfit a pack of %s: expect %.2f %s without the seal", first,
		short(w.Aim), expect.Value, expect.Unit.Symbol)
	return nil
}

// firstStep is what to try where nothing tells yet how the torque answers.
func (in PreloadIn) firstStep(pack Length, low bool) string {
	thicker := low == (in.tightens() > 0)
	word := map[bool]string{true: "thicker", false: "thinner"}[thicker]
	return fmt.Sprintf("fit a pack %s by %s: it shows how the torque answers",
		word, short(quantity.SayDifference(firstPackStep, pack.Unit)))
}

// tightPack is a pack as far as it tightens, with the preload it gave.
type tightPack struct {
	pack   quantity.Length // below zero where a thicker pack lets go
	torque quantity.Torque
}

// tight are the trials that have preload, in their order; one without lies off the line, and
// so does one whose pack nobody said.
func (in PreloadIn) tight(drag quantity.Torque) (found []tightPack) {
	for _, t := range in.Trials {
		var sum quantity.Torque
		for _, r := range t.Readings {
			sum += r.SI()
		}
		if preload := sum/quantity.Torque(len(t.Readings)) - drag; preload > noTorque && t.Pack.SI() > 0 {
			found = append(found, tightPack{in.tightens() * t.Pack.SI(), preload})
		}
	}
	return found
}

// riseWithPack is the rise of torque for each metre of pack that tightens; false where
// fewer than two packs show it.
func riseWithPack(tight []tightPack) (float64, bool) {
	var rows [][]float64
	var values []float64
	differ := false
	for _, t := range tight {
		x := float64(t.pack) * 1e3
		differ = differ || len(rows) > 0 && math.Abs(rows[0][1]-x) > 1e-6
		rows, values = append(rows, []float64{1, x}), append(values, float64(t.torque))
	}
	if !differ {
		return 0, false
	}
	fit, err := solve.LeastSquares(rows, values)
	if err != nil {
		return 0, false
	}
	return fit.Params[1] * 1e3, true
}
