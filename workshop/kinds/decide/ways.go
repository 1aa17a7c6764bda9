package decide

import (
	"encoding/json"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/decision"
	"handwerk/core/input"
	"handwerk/core/text"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// acceptWays takes all ways as they are to be weighed; those of the sheet stay,
// whatever their ranges.
func acceptWays(p *record.Attempt) error {
	figure := record.Saying[acts.Ways](p).Figure
	p.Draft.Item = record.Place{}
	if !Agrees(p.Step) {
		return input.At("act", "ways, where ways are weighed", "this step compares no options")
	}
	if len(figure) == 0 || len(figure) > shop.MaxFigure {
		return input.At("figure", "the options with low and high figures", "missing or too long")
	}
	if problem := text.Bad(string(figure)); problem != "" {
		return input.At("figure", text.Accepted, "%s", problem)
	}
	var said []decision.Option
	if err := input.Decode(figure, &said); err != nil {
		return input.Below("figure", err)
	}
	return waysFit(p, said)
}

// waysFit: they can be weighed, are told apart, and none is left out.
func waysFit(p *record.Attempt, said []decision.Option) error {
	var faults input.Fields
	draws := 100 // to hear its faults, not its answer
	if _, err := decision.Decide(decision.In{Options: said, Draws: &draws}); err != nil {
		for _, f := range input.Below("", err) {
			faults.Add("figure"+strings.TrimPrefix(f.Path, "options"), f.Accepted, "%s", f.Problem)
		}
	}
	for i, w := range said {
		say.OneLine(&faults, input.Index("figure", i)+".says", w.Says, 1, say.MostSaid)
		twice := slices.ContainsFunc(said[:i], func(o decision.Option) bool { return o.ID == w.ID })
		if !book.IsID(w.ID) || twice {
			faults.Add(
				input.Index("figure", i)+".id", "a name of its own, of small letters, digits and dashes",
				"%q is not a valid name, or is already used", w.ID,
			)
		}
	}
	for _, w := range p.State.On.Sheet.Ways {
		if !slices.ContainsFunc(said, func(o decision.Option) bool { return o.ID == w.ID }) {
			faults.Add("figure", "every way that is weighed, and more", "%s is missing", w.Says)
		}
	}
	return faults.Err()
}

// Choices are those of the step, and the ways that were put beside them.
func Choices(s *record.State, step *record.Step) []book.Choice {
	if step.Offers != "" {
		return append(rowsOffered(s, step), step.Choices...)
	}
	if !Agrees(step) {
		return step.Choices
	}
	list := slices.Clone(step.Choices)
	for _, w := range s.On.Sheet.Ways {
		if !slices.ContainsFunc(list, func(c book.Choice) bool { return c.ID == w.ID }) {
			list = append(list, book.Choice{ID: w.ID, Text: w.Says})
		}
	}
	return list
}

// rowsOffered are the rows of the spec sheet a step chooses among; a name is its id.
func rowsOffered(s *record.State, step *record.Step) (list []book.Choice) {
	var rows []struct {
		Name string `json:"name"`
	}
	_ = json.Unmarshal(s.On.Figures[step.Offers], &rows) // none are none
	for _, row := range rows {
		known := slices.ContainsFunc(list, func(c book.Choice) bool { return c.ID == row.Name })
		if row.Name != "" && row.Name != book.OtherCause && !known {
			list = append(list, book.Choice{ID: row.Name, Text: say.Raise(row.Name)})
		}
	}
	return list
}

// waysSaidAfter tells whether the ways were said otherwise since.
func waysSaidAfter(s *record.State, seq int) bool {
	for i := len(s.Entries) - 1; i >= 0 && s.Entries[i].Seq > seq; i-- {
		if s.Entries[i].Is(acts.Ways{}) && s.Superseded[i] == 0 {
			return true
		}
	}
	return false
}

func waysWords(_ *record.State, _ *record.Step, e *record.Entry) string {
	b := record.As[acts.Ways](e)
	var said []decision.Option
	_ = json.Unmarshal(b.Figure, &said) // was read when it was taken
	names := make([]string, len(said))
	for i, w := range said {
		names[i] = w.Says
	}
	return record.WithReason("options changed for this unit: "+strings.Join(names, ", "), b)
}
