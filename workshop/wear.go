package workshop

import (
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// How a part is judged beyond a word: what was measured of it against new and
// limit, and how it is reworked.

// Worn is what was measured of a part.
type Worn struct {
	What  string       `json:"what"` // thickness, gap
	Value quantity.Any `json:"value"`
	New   quantity.Any `json:"new"`
	Limit quantity.Any `json:"limit"`
	Left  float64      `json:"left,omitempty"` // share of its life; set by us
	Says  string       `json:"says,omitempty"` // set by us
}

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

// worn works out what is left of a part that was measured, and asks why one
// beyond its limit is used again.
func (p *proposal) worn(part StackPart) error {
	w := p.draft.Wear
	if w == nil {
		return nil
	}
	var faults input.Fields
	if w.What = strings.TrimSpace(w.What); w.What == "" || utf8.RuneCountInString(w.What) > mostSaid {
		faults.Add("wear.what", "what was measured: thickness, gap", "nothing was said, or too much")
	}
	if !w.Value.IsSaid() {
		faults.Add("wear.value", "what was measured, with its unit", "missing")
	}
	for name, q := range map[string]quantity.Any{"new": w.New, "limit": w.Limit} {
		if !q.IsSaid() || (w.Value.IsSaid() && q.Dimension() != w.Value.Dimension()) {
			faults.Add("wear."+name, "a "+string(w.Value.Dimension()), "missing, or of another kind")
		}
	}
	if err := faults.Err(); err != nil {
		return err
	}
	left, err := metrology.LifeLeft(w.Value.SI(), w.New.SI(), w.Limit.SI())
	if err != nil {
		return input.Below("wear", err)
	}
	w.Left, w.Says = left, fmt.Sprintf("%s %s, limit %s", w.What, w.Value, w.Limit)
	p.verdict = metrology.In
	if left < 0 {
		p.verdict = metrology.Out
		if p.draft.Outcome == partReuse {
			return p.reason("why " + part.Name + " is used beyond its limit")
		}
	}
	return nil
}

func verdictWords(b Body) string {
	words := strings.ReplaceAll(b.Outcome, "-", " ")
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
