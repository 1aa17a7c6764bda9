package stack

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/measure"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// mostReadings of one part.
const mostReadings = 20

// works are the ways to rework a part.
var works = []string{"polish", "dress", "deburr", "reface", "straighten", "wire", "stake"}

func checkWork(said *acts.Verdict) error {
	switch {
	case said.Work == "":
		return nil
	case said.Outcome != PartRework:
		return input.At("work", "nothing, unless it is reworked", "%q is no work on a part that is not reworked",
			said.Work)
	case !slices.Contains(works, said.Work):
		return input.At("work", strings.Join(works, ", "), "%q is not one of these", said.Work)
	}
	return nil
}

// betterThanNew is how far, as a share, a part may read beyond its figure as new:
// makers' tolerances are no wider. Common practice.
const betterThanNew = 0.02

// checkWear works out what is left of a part that was measured, and asks why one
// beyond its limit, or too close to it to tell, is used again.
func checkWear(p *record.Attempt, said *acts.Verdict, part StackPart) error {
	w := said.Wear
	if w == nil {
		if said.Instrument != "" {
			return input.At("instrument", "nothing, unless the part is measured", "nothing was measured with %q",
				said.Instrument)
		}
		return nil
	}
	if err := checkWorn(w); err != nil {
		return err
	}
	if err := measure.CheckInstrument(p, &said.Read); err != nil {
		return err
	}
	if err := checkWearByReadings(p, said, w); err != nil {
		return err
	}
	left, err := metrology.LifeLeft(w.Value.SI(), w.New.SI(), w.Limit.SI())
	if err != nil {
		return input.Below("wear", err)
	}
	if better := math.Abs(w.Value.SI() - w.New.SI()); left > 1 && better > betterThanNew*math.Abs(w.New.SI()) &&
		better > w.Sure.DifferenceSI() {
		return input.At(
			"wear.value", "up to what it has as new, "+w.New.String(),
			"%s is better than new: another part, or a slip of the gauge", w.Value,
		)
	}
	w.Left, w.Says = left, wornWords(w)
	if p.Verdict != metrology.Undecided {
		if p.Verdict = metrology.In; left < 0 {
			p.Verdict = metrology.Out
		}
	}
	switch {
	case said.Outcome != PartReuse || p.Verdict == metrology.In:
		return nil
	case p.Verdict == metrology.Out:
		return p.WantReason("why " + part.Name + " is worn past its limit but reused")
	}
	return p.WantReason("why " + part.Name + " is reused close to its limit; or take more readings")
}

// checkWorn: it is said what was measured, what was read, and against what.
func checkWorn(w *acts.Wear) error {
	var faults input.Fields
	w.What = say.OneLine(&faults, "wear.what", w.What, 1, say.MostSaid)
	read := w.Value
	switch n := len(w.Readings); {
	case n > mostReadings:
		faults.Add("wear.readings", "1 to 20 readings", "%d readings were given", n)
	case n > 0:
		read = w.Readings[0]
	}
	if !read.IsSaid() {
		faults.Add("wear.value", "what was measured, with its unit", "missing")
	}
	for i, r := range w.Readings {
		if r.Dimension() != read.Dimension() {
			faults.Add(input.Index("wear.readings", i), "all readings of one kind", "a %s among readings of %s",
				r.Dimension(), read.Dimension())
		}
	}
	for name, q := range map[string]quantity.Any{"new": w.New, "limit": w.Limit} {
		if !q.IsSaid() || (read.IsSaid() && q.Dimension() != read.Dimension()) {
			faults.Add("wear."+name, "a "+string(read.Dimension()), "missing, or not the same kind of figure")
		}
	}
	w.Sure = quantity.Any{}
	return faults.Err()
}

// checkWearByReadings works out what several readings, or one with a known gauge,
// say of the part: their mean, how sure it is, and whether its limit lies
// beyond doubt. A bare value says itself.
func checkWearByReadings(p *record.Attempt, said *acts.Verdict, w *acts.Wear) error {
	read := w.Readings
	if len(read) == 0 {
		read = []quantity.Any{w.Value}
	}
	gauge, err := gaugeInHand(p, &said.Read, w)
	if err != nil {
		return err
	}
	in := metrology.ReadingSetIn{Readings: read, Instrument: gauge}
	if len(read) == 1 && in.Instrument == nil {
		w.Value = read[0]
		return nil
	}
	if in.Upper = w.Limit; w.New.SI() > w.Limit.SI() {
		in.Lower, in.Upper = w.Limit, quantity.Any{}
	}
	out, err := metrology.ReadingSetMethod.Call(in)
	if err != nil {
		return input.Below("wear", err)
	}
	w.Value, w.Sure = out.Mean, out.Uncertainty
	if out.Uncertainty.IsSaid() {
		p.Verdict = out.Verdict
	}
	p.Method = metrology.ReadingSetMethod.Method()
	p.Result, err = metrology.ReadingSetMethod.Write(out)
	return err
}

// gaugeInHand is what a part was read with; it reads what the limit is in.
func gaugeInHand(p *record.Attempt, with *acts.Read, w *acts.Wear) (*metrology.Instrument, error) {
	if with.Instrument == "" {
		return nil, nil
	}
	copied, _ := p.Ledger.Plan.Instrument(with.Instrument)
	g := cmp.Or(with.Gauge, &shop.Gauge{Instrument: copied})
	if g.Resolution.Dimension() != w.Limit.Dimension() {
		return nil, input.At(
			"instrument",
			"a gauge that measures "+string(w.Limit.Dimension()),
			"%s does not measure that",
			g.Name,
		)
	}
	return &metrology.Instrument{Name: g.Name, Resolution: g.Resolution, MPE: g.MPE, Repeatability: g.Repeatability},
		nil
}

// wornWords: "ring gap 0.62 mm ± 0.02 mm from 3 readings, limit 0.6 mm".
func wornWords(w *acts.Wear) string {
	said := w.Value.String()
	if w.Sure.IsSaid() || len(w.Readings) > 1 {
		said = w.Value.WithUncertainty(w.Sure)
	}
	words := w.What + " " + said
	if n := len(w.Readings); n > 1 {
		words += " from " + say.Several(n, "reading", "readings")
	}
	return words + ", limit " + w.Limit.String()
}

func verdictWords(b *acts.Verdict) string {
	words := strings.ReplaceAll(b.Outcome, "-", " ")
	switch b.Outcome {
	case partNone:
		words = "this one has none"
	case partNotFound:
		words = "missing, it must be there"
	}
	if b.Work != "" {
		words += ", " + b.Work
	}
	if b.Wear != nil {
		words += ", " + b.Wear.Says
	}
	return words
}

// wearsOf are what the sheet says of the parts of a stack, by their ids.
func wearsOf(s *record.State, parts []StackPart) map[string]book.Wear {
	list := map[string]book.Wear{}
	for _, p := range parts {
		if w, ok := s.On.Sheet.Wears[p.ID]; ok {
			list[p.ID] = w
		}
	}
	return list
}
