package record

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/say"
)

// A spec sheet need not be complete. What a step wants of it and it does not
// say is asked for at the bench; the answer is an entry, with its origin, and
// serves the whole rebuild. This file lays facts and answers over the copied
// sheet.

// grounds are what the steps of a rebuild are worked on.
type grounds struct {
	Sheet   book.SpecSheet
	Figures book.Figures
	unknown map[string]bool
	ready   []any      // by step: what its kind made of the sheet
	wants   [][]string // by step: figures to be asked for, by the path of their answer
	blind   []bool     // by step: a figure is not known, so that nothing can be worked out
	said    []saidFigure
}

// saidFigure is when and at which step a figure was said at the bench.
type saidFigure struct {
	path, step string
	seq        int
}

// grounds of a plan on a sheet, with figures laid over it.
func (p *Plan) grounds(sheet book.SpecSheet, over map[string]json.RawMessage, unknown map[string]bool) (*grounds,
	error) {
	g := &grounds{
		Sheet: sheet, unknown: unknown, ready: make([]any, len(p.Steps)), wants: make([][]string, len(p.Steps)),
		blind: make([]bool, len(p.Steps)),
	}
	for _, path := range slices.Sorted(maps.Keys(over)) {
		if err := g.Sheet.Lay(path, over[path]); err != nil {
			return nil, fmt.Errorf("%s: %w", path, err)
		}
	}
	var err error
	if g.Figures, err = g.Sheet.AllFigures(); err != nil {
		return nil, err
	}
	for i, step := range p.Steps {
		for _, path := range step.wants {
			answer := book.Answer(path)
			_, there := g.Figures[path]
			switch {
			case !there && g.unknown[answer]:
				g.blind[i] = true
			case !there && !slices.Contains(g.wants[i], answer):
				g.wants[i] = append(g.wants[i], answer)
			}
		}
		g.blind[i] = g.blind[i] || slices.ContainsFunc(step.resultsOf,
			func(id string) bool { return g.blind[p.ByID[id].At] })
		if step.Rules.Prepare != nil {
			if g.ready[i], err = step.Rules.Prepare(step.Step, g.Sheet); err != nil {
				return nil, err
			}
		}
	}
	return g, nil
}

// worked is what a rebuild works to: the sheet that was copied or taken last, and
// what was said of the vehicle and at the bench, the last word on each.
type worked struct {
	sheet   book.SpecSheet
	facts   map[string]json.RawMessage // the order says: before any sheet
	over    map[string]json.RawMessage
	unknown map[string]bool
	said    []saidFigure
}

// daysLeft is the figure that the promised day gives: nobody types it.
const daysLeft = "figures.deadline-days"

// orderFigures are the figures that the order says: of the vehicle, and the
// days from its opening to the promised one where a step asks for them.
func (s *State) orderFigures() map[string]json.RawMessage {
	figures := s.order.Facts.Figures()
	if !slices.ContainsFunc(s.Plan.Steps, func(x *Step) bool { return slices.Contains(x.wants, daysLeft) }) {
		return figures
	}
	opened := say.DayOf(s.order.OpenedAt, s.Zone)
	if s.Promised < opened { // or nobody promised anything
		return figures
	}
	if figures == nil {
		figures = map[string]json.RawMessage{}
	}
	figures[daysLeft] = json.RawMessage(strconv.Itoa(say.DaysBetween(opened, s.Promised)))
	return figures
}

func (s *State) works() worked {
	w := worked{sheet: s.Plan.Sheet, facts: s.orderFigures(), over: map[string]json.RawMessage{},
		unknown: map[string]bool{}}
	maps.Copy(w.over, w.facts)
	for i, e := range s.Entries {
		if s.Superseded[i] > 0 || !s.isGround(e) {
			continue
		}
		switch said := e.ReadAct().(type) {
		case *acts.Sheet:
			if said.Sheet != nil {
				w.take(*said.Sheet, e)
			}
		case *acts.Figure:
			w.answer(e.Item.Name, said.Figure, said.Origin, e)
		case *acts.Ways:
			w.answer(waysPath, said.Figure, "", e)
		}
	}
	return w
}

func (w *worked) answer(path string, figure json.RawMessage, origin acts.Origin, e Entry) {
	if origin == acts.NotKnown || origin == acts.NotHere {
		w.unknown[path] = true
		delete(w.over, path)
	} else {
		w.over[path] = figure
		delete(w.unknown, path)
	}
	w.said = append(w.said, saidFigure{path, e.Step, e.Seq})
}

// take goes on with another version of the sheet, which has the last word on
// what it says; an answer given at the bench before stands where it is silent.
func (w *worked) take(next book.SpecSheet, e Entry) {
	before, _ := w.sheet.Lines() // both were JSON a moment ago
	after, _ := next.Lines()
	was := map[string]string{}
	for _, l := range before {
		was[l.Path] = string(l.Figure)
	}
	for _, l := range after {
		if _, fact := w.facts[l.Path]; fact {
			continue
		}
		if _, answered := w.over[l.Path]; answered || was[l.Path] != string(l.Figure) {
			w.said = append(w.said, saidFigure{l.Path, e.Step, e.Seq})
		}
		delete(w.over, l.Path)
		delete(w.unknown, l.Path)
		delete(was, l.Path)
	}
	for path := range was {
		w.said = append(w.said, saidFigure{path, e.Step, e.Seq})
	}
	w.sheet = next
}

// reground lays facts, sheet and answers anew. A record that says what cannot be
// laid is shown on the copied sheet alone.
func (s *State) reground() {
	w := s.works()
	if len(w.over)+len(w.unknown)+len(w.said) == 0 {
		s.On = s.Plan.ground
		return
	}
	g, err := s.Plan.grounds(w.sheet, w.over, w.unknown)
	if err != nil {
		g = &grounds{}
		*g = *s.Plan.ground
	}
	g.said = w.said
	s.On = g
}

// waitsFor are the figures without which a step cannot begin, and that nobody
// said yet.
func (s *State) waitsFor(step *Step) (missing []string) {
	for _, path := range s.On.wants[step.At] {
		if slices.Contains(step.waits, path) {
			missing = append(missing, path)
		}
	}
	return missing
}

// Ready is what the kind of a step made ready of the sheet as it is known.
func (s *State) Ready(step *Step) any { return s.On.ready[step.At] }

// FigureSince names the step at which a figure that a step wants was said after
// an entry; empty when none was.
func (s *State) FigureSince(step *Step, seq int) string {
	for _, f := range s.On.said {
		if f.seq > seq && slices.ContainsFunc(step.wants, func(w string) bool { return book.Answer(w) == f.path }) {
			return f.step
		}
	}
	return ""
}

// IsBlind tells that a step has a figure that is not known: it is measured
// without a verdict.
func (s *State) IsBlind(step *Step) bool {
	return s.On.blind[step.At] || slices.ContainsFunc(step.hangsOn, func(id string) bool {
		before, known := s.Plan.ByID[id]
		return known && (s.IsSkipped(before) || slices.Contains(step.resultsOf, id) && s.IsBlind(before))
	})
}
