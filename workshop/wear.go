package workshop

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// How a part is judged beyond a word: what was measured of it against new and
// limit, and how it is reworked.

// Worn is what was measured of a part.
type Worn struct {
	What     string         `json:"what"`               // thickness, gap
	Readings []quantity.Any `json:"readings,omitempty"` // as they were read; Value is what they say, then, set by us
	Value    quantity.Any   `json:"value,omitzero"`
	Sure     quantity.Any   `json:"sure,omitzero"` // to how much, from readings and gauge; set by us
	New      quantity.Any   `json:"new"`
	Limit    quantity.Any   `json:"limit"`
	Left     float64        `json:"left,omitempty"` // share of its life; set by us
	Says     string         `json:"says,omitempty"` // set by us
}

// mostReadings of one part.
const mostReadings = 20

// works are the ways to rework a part.
var works = []string{"polish", "dress", "deburr", "reface", "straighten", "wire", "stake"}

func (p *proposal) workedOn() error {
	switch {
	case p.draft.Work == "":
		return nil
	case p.draft.Outcome != partRework:
		return input.At("work", "nothing, unless it is reworked", "%q is no work on a part that is not reworked", p.draft.Work)
	case !slices.Contains(works, p.draft.Work):
		return input.At("work", strings.Join(works, ", "), "%q is none of them", p.draft.Work)
	}
	return nil
}

// betterThanNew is how far, as a share, a part may read beyond its figure as new:
// makers' tolerances are no wider. Common practice.
const betterThanNew = 0.02

// worn works out what is left of a part that was measured, and asks why one
// beyond its limit, or too close to it to tell, is used again.
func (p *proposal) worn(part StackPart) error {
	w := p.draft.Wear
	if w == nil {
		if p.draft.Instrument != "" {
			return input.At("instrument", "nothing, unless the part is measured", "nothing was measured with %q", p.draft.Instrument)
		}
		return nil
	}
	if err := w.check(); err != nil {
		return err
	}
	if err := p.knownInstrument(); err != nil {
		return err
	}
	if err := p.wornByReadings(w); err != nil {
		return err
	}
	left, err := metrology.LifeLeft(w.Value.SI(), w.New.SI(), w.Limit.SI())
	if err != nil {
		return input.Below("wear", err)
	}
	if better := math.Abs(w.Value.SI() - w.New.SI()); left > 1 && better > betterThanNew*math.Abs(w.New.SI()) && better > w.Sure.DifferenceSI() {
		return input.At(
			"wear.value", "up to what it has as new, "+w.New.String(),
			"%s is better than new: another part, or a slip of the gauge", w.Value,
		)
	}
	w.Left, w.Says = left, p.wornWords(w)
	if p.verdict != metrology.Undecided {
		if p.verdict = metrology.In; left < 0 {
			p.verdict = metrology.Out
		}
	}
	switch {
	case p.draft.Outcome != partReuse || p.verdict == metrology.In:
		return nil
	case p.verdict == metrology.Out:
		return p.reason("why " + part.Name + " is used beyond its limit")
	}
	return p.reason("why " + part.Name + " is used again so close to its limit, or more readings")
}

// check: it is said what was measured, what was read, and against what.
func (w *Worn) check() error {
	var faults input.Fields
	w.What = oneLine(&faults, "wear.what", w.What, 1, mostSaid)
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
			faults.Add(input.Index("wear.readings", i), "all readings of one kind", "a %s among readings of %s", r.Dimension(), read.Dimension())
		}
	}
	for name, q := range map[string]quantity.Any{"new": w.New, "limit": w.Limit} {
		if !q.IsSaid() || (read.IsSaid() && q.Dimension() != read.Dimension()) {
			faults.Add("wear."+name, "a "+string(read.Dimension()), "missing, or of another kind")
		}
	}
	w.Sure = quantity.Any{}
	return faults.Err()
}

// wornByReadings works out what several readings, or one with a known gauge,
// say of the part: their mean, how sure it is, and whether its limit lies
// beyond doubt. A bare value says itself.
func (p *proposal) wornByReadings(w *Worn) error {
	read := w.Readings
	if len(read) == 0 {
		read = []quantity.Any{w.Value}
	}
	gauge, err := p.gaugeInHand(w)
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
		p.verdict = out.Verdict
	}
	p.method = metrology.ReadingSetMethod.Method()
	p.result, err = metrology.ReadingSetMethod.Write(out)
	return err
}

// gaugeInHand is what a part was read with; it reads what the limit is in.
func (p *proposal) gaugeInHand(w *Worn) (*metrology.Instrument, error) {
	if p.draft.Instrument == "" {
		return nil, nil
	}
	copied, _ := p.ledger.Plan.Instrument(p.draft.Instrument)
	g := cmp.Or(p.draft.Gauge, &Gauge{Instrument: copied})
	if g.Resolution.Dimension() != w.Limit.Dimension() {
		return nil, input.At("instrument", "a gauge that reads a "+string(w.Limit.Dimension()), "%s does not", g.Name)
	}
	return &metrology.Instrument{Name: g.Name, Resolution: g.Resolution, MPE: g.MPE, Repeatability: g.Repeatability}, nil
}

// wornWords: "ring gap 0.62 mm ± 0.02 mm from 3 readings, limit 0.6 mm".
func (p *proposal) wornWords(w *Worn) string {
	said := w.Value.String()
	if w.Sure.IsSaid() || len(w.Readings) > 1 {
		said = w.Value.WithUncertainty(w.Sure)
	}
	words := w.What + " " + said
	if n := len(w.Readings); n > 1 {
		words += " from " + several(n, "reading", "readings")
	}
	return words + ", limit " + w.Limit.String()
}

func verdictWords(b Body) string {
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

// wears are what the sheet says of the parts of a stack, by their ids.
func (s *State) wears(parts []StackPart) map[string]book.Wear {
	list := map[string]book.Wear{}
	for _, p := range parts {
		if w, ok := s.on.sheet.Wears[p.ID]; ok {
			list[p.ID] = w
		}
	}
	return list
}
