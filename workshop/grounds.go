package workshop

import (
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/text"
)

// A spec sheet need not be complete. What a step wants of it and it does not
// say is asked for at the bench; the answer is an entry, with its origin, and
// serves the whole rebuild. This file lays facts and answers over the copied
// sheet.

// Origin is where a figure comes from.
type Origin string

// The origins.
const (
	FromMaker    Origin = "makers-book" // with its page
	FromPlate    Origin = "plate"       // a plate or a stamp
	FromMeasured Origin = "measured"    // on a sound unit
	FromThisOne  Origin = "measured-here"
	FromJudgment Origin = "judgement" // of this shop
	NotKnown     Origin = "not-known" // measured without a verdict
)

// originTitles are the origins in the order they are offered.
var originTitles = []struct {
	ID    Origin
	Title string
}{
	{FromMaker, "maker's book"}, {FromPlate, "plate or stamp"}, {FromMeasured, "measured on a sound unit"},
	{FromThisOne, "measured on this one"},
	{FromJudgment, "this shop's judgement"}, {NotKnown, "not known"},
}

func (o Origin) title() string {
	return named(originTitles, string(o), func(x struct {
		ID    Origin
		Title string
	}) (string, string) {
		return string(x.ID), x.Title
	})
}

// grounds are what the steps of a rebuild are worked on.
type grounds struct {
	sheet   book.SpecSheet
	figures book.Figures
	unknown map[string]bool
	torques []torqueWork // by step
	wants   [][]string   // by step: figures to be asked for, by the path of their answer
	blind   []bool       // by step: a figure is not known, so that nothing can be worked out
	said    []saidFigure
}

// saidFigure is when and at which step a figure was said at the bench.
type saidFigure struct {
	path, step string
	seq        int
}

// grounds of a plan on a sheet, with figures laid over it.
func (p *Plan) grounds(sheet book.SpecSheet, over map[string]json.RawMessage, unknown map[string]bool) (*grounds, error) {
	g := &grounds{sheet: sheet, unknown: unknown, torques: make([]torqueWork, len(p.steps)), wants: make([][]string, len(p.steps)), blind: make([]bool, len(p.steps))}
	for _, path := range slices.Sorted(maps.Keys(over)) {
		if err := g.sheet.Lay(path, over[path]); err != nil {
			return nil, fmt.Errorf("%s: %w", path, err)
		}
	}
	var err error
	if g.figures, err = g.sheet.AllFigures(); err != nil {
		return nil, err
	}
	for i, step := range p.steps {
		for _, path := range step.wants {
			answer := book.Answer(path)
			_, there := g.figures[path]
			switch {
			case !there && g.unknown[answer]:
				g.blind[i] = true
			case !there && !slices.Contains(g.wants[i], answer):
				g.wants[i] = append(g.wants[i], answer)
			}
		}
		g.blind[i] = g.blind[i] || slices.ContainsFunc(step.resultsOf, func(id string) bool { return g.blind[p.named[id].at] })
		if group, ok := g.sheet.Torques[step.Group]; ok && step.Kind == book.Torque {
			if g.torques[i], err = planTorque(step.Step, group); err != nil {
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
	figures := s.order.Facts.figures()
	if !slices.ContainsFunc(s.plan.steps, func(x *Step) bool { return slices.Contains(x.wants, daysLeft) }) {
		return figures
	}
	opened := dayOf(s.order.OpenedAt, s.zone)
	if s.promised < opened { // or nobody promised anything
		return figures
	}
	if figures == nil {
		figures = map[string]json.RawMessage{}
	}
	figures[daysLeft] = json.RawMessage(strconv.Itoa(daysBetween(opened, s.promised)))
	return figures
}

func (s *State) works() worked {
	w := worked{sheet: s.plan.Sheet, facts: s.orderFigures(), over: map[string]json.RawMessage{}, unknown: map[string]bool{}}
	maps.Copy(w.over, w.facts)
	for i, e := range s.entries {
		switch said := e.Said(); {
		case s.by[i] > 0:
		case e.Act == ActSheet && said.Sheet != nil:
			w.take(*said.Sheet, e)
		case e.Act == ActFigure:
			w.answer(e.Item.Name, said, e)
		case e.Act == ActWays:
			w.answer(waysPath, said, e)
		}
	}
	return w
}

func (w *worked) answer(path string, said Body, e Entry) {
	if said.Origin == NotKnown {
		w.unknown[path] = true
		delete(w.over, path)
	} else {
		w.over[path] = said.Figure
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
		s.on = s.plan.ground
		return
	}
	g, err := s.plan.grounds(w.sheet, w.over, w.unknown)
	if err != nil {
		g = &grounds{}
		*g = *s.plan.ground
	}
	g.said = w.said
	s.on = g
}

// torqueAt is the torque group of a step as it is known.
func (s *State) torqueAt(step *Step) torqueWork { return s.on.torques[step.at] }

// figureSince names the step at which a figure that a step wants was said after
// an entry; empty when none was.
func (s *State) figureSince(step *Step, seq int) string {
	for _, f := range s.on.said {
		if f.seq > seq && slices.ContainsFunc(step.wants, func(w string) bool { return book.Answer(w) == f.path }) {
			return f.step
		}
	}
	return ""
}

// isBlind tells that a step has a figure that is not known: it is measured
// without a verdict.
func (s *State) isBlind(step *Step) bool { return s.on.blind[step.at] }

// FigureView is a figure of the sheet that a step asks for, or that was said
// here; Said is set in the latter case.
type FigureView struct {
	book.Figure
	Units  []string        `json:"units,omitempty"` // to type it in
	Said   json.RawMessage `json:"said,omitempty"`
	Says   string          `json:"says,omitempty"`
	Origin Origin          `json:"origin,omitempty" enum:"makers-book,plate,measured,measured-here,judgement,not-known"`
	Entry  string          `json:"entry,omitempty"` // to correct it, where it was said at this step
	Step   string          `json:"step,omitempty"`  // where it was said
	By     string          `json:"by,omitempty"`
}

// figureViews are what a step asks the sheet for, and what was answered of it.
func (s *State) figureViews(step *Step) []FigureView {
	views := []FigureView{}
	for _, path := range s.on.wants[step.at] {
		f := s.plan.figureNamed(path, step)
		views = append(views, FigureView{Figure: f, Units: quantity.ChoicesIn(s.units, f.Unit)})
	}
	asked := map[string]bool{}
	for _, path := range step.wants {
		asked[book.Answer(path)] = true
	}
	for i, e := range s.entries {
		if e.Act != ActFigure || s.by[i] > 0 || !asked[e.Item.Name] {
			continue
		}
		b, f := e.Said(), s.plan.figureNamed(e.Item.Name, step)
		views = append(views, FigureView{
			Figure: f, Units: quantity.ChoicesIn(s.units, f.Unit), Said: b.Figure, Says: s.figureWords(&e), Origin: b.Origin, Entry: e.ID, Step: e.Step, By: e.By.Name,
		})
	}
	return views
}

// figureNamed is what the book knows of a figure, or its bare name.
func (p *Plan) figureNamed(path string, step *Step) book.Figure {
	f := book.NameFigure(p.Glossary, path)
	if f.Unit == "" && step.Measure != nil && f.Shape == book.ShapeLimit {
		f.Unit = step.Measure.Unit
	}
	return f
}

func (s *State) figureWords(e *Entry) string {
	b := e.Said()
	step, _ := s.plan.Step(e.Step)
	title := s.plan.figureNamed(e.Item.Name, step).Title
	if b.Origin == NotKnown {
		return title + ": not known, worked without a verdict"
	}
	return title + ": " + book.FigureWords(b.Figure) + ", " + b.Origin.title()
}

const maxFigure = 20_000 // bytes of one figure as JSON

// acceptFigure takes a figure of the sheet that a step wants.
func (p *proposal) acceptFigure() error {
	path := p.draft.Item.String()
	if !slices.ContainsFunc(p.step.wants, func(w string) bool { return book.Answer(w) == path }) {
		return input.At("item", strings.Join(p.state.on.wants[p.step.at], ", "), "the step asks for no figure %q", path)
	}
	if !slices.ContainsFunc(originTitles, func(o struct {
		ID    Origin
		Title string
	}) bool {
		return o.ID == p.draft.Origin
	}) {
		return input.At("origin", "makers-book, plate, measured, measured-here, judgement, not-known", "%q is no origin of a figure", p.draft.Origin)
	}
	if _, copied := p.state.plan.ground.figures[path]; copied && !slices.Contains(p.state.on.wants[p.step.at], path) {
		return refuse(Conflict, sheetSays, p.state.plan.figureNamed(path, p.step).Title)
	}
	p.draft.Item = Place{Name: path}
	if p.draft.Origin == NotKnown {
		if len(p.draft.Figure) > 0 {
			return input.At("figure", "nothing: it is not known", "a figure that is not known has no value")
		}
		return nil
	}
	if p.draft.Origin == FromMaker && strings.TrimSpace(p.draft.Note) == "" {
		return input.At("note", "the page of the book, like page 112", "a figure from the maker's book wants its page")
	}
	if len(p.draft.Figure) == 0 || len(p.draft.Figure) > maxFigure {
		return input.At("figure", "its value, up to 20 kB", "missing or too long")
	}
	if problem := text.Bad(string(p.draft.Figure)); problem != "" {
		return input.At("figure", text.Accepted, "%s", problem)
	}
	return p.figureFits(path)
}

// figureFits lays the figure over the sheet and asks every step that wants it
// whether it can be worked with.
func (p *proposal) figureFits(path string) error {
	w := p.state.works()
	w.over[path] = p.draft.Figure
	delete(w.unknown, path)
	plan := p.state.plan
	g, err := plan.grounds(w.sheet, w.over, w.unknown)
	if err != nil {
		return input.Below("figure", unwrapped(err))
	}
	var faults input.Fields
	for _, f := range g.sheet.Check() {
		if rest, mine := strings.CutPrefix(f.Path, path); mine {
			faults.Add(input.Join("figure", strings.TrimPrefix(rest, ".")), f.Accepted, "%s", f.Problem)
		}
	}
	ground := book.Ground{Sheet: g.sheet, Figures: g.figures, Steps: map[string]book.Step{}, Kinds: Kinds()}
	for _, s := range plan.steps {
		ground.Steps[s.ID] = s.Step
	}
	for i, s := range plan.steps {
		wanted := slices.ContainsFunc(s.wants, func(w string) bool { return book.Answer(w) == path })
		if !wanted || g.blind[i] || len(g.wants[i]) > 0 || s.kind.Misfits == nil || len(faults) > 0 {
			continue
		}
		for _, f := range s.kind.Misfits(s.Step, ground) {
			faults.Add("figure", f.Accepted, "%s: %s", s.Title, f.Problem)
		}
	}
	if len(faults) == 0 {
		faults = append(faults, p.figureUnit(path, g)...)
	}
	return faults.Err()
}

// figureUnit holds a limit against the unit of what lies between it.
func (p *proposal) figureUnit(path string, g *grounds) (faults input.Fields) {
	limit, ok := g.sheet.Limits[strings.TrimPrefix(path, "limits.")]
	if !ok || !strings.HasPrefix(path, "limits.") || p.step.Measure == nil || "limits."+limitOf(p.step) != path {
		return nil
	}
	want, known := quantity.UnitNamed(p.step.Measure.Unit)
	for _, side := range []quantity.Any{limit.Min, limit.Max} {
		if known && side.IsSaid() && side.Dimension() != want.Dimension {
			faults.Add("figure", "a "+string(want.Dimension), "%s is a %s", side, side.Dimension())
		}
	}
	return faults
}

// unwrapped is the fault itself, without the path that stands before it.
func unwrapped(err error) error {
	if faults := input.Below("", err); len(faults) > 0 && faults[0].Path != "" {
		return faults
	}
	return err
}

// known: what the step wants of the sheet is asked for before its work begins.
func (p *proposal) known() error {
	if slices.Contains(everywhere, p.draft.Act) {
		return nil
	}
	if missing := p.state.on.wants[p.step.at]; len(missing) > 0 {
		return refuse(GateClosed, figuresFirst, idsOf(missing, func(path string) string { return p.state.plan.figureNamed(path, p.step).Title }))
	}
	return nil
}

// usualFigure answers what a step asks of the sheet as somebody would who does
// not know it.
func usualFigure(f FigureView) Draft {
	return Draft{Act: ActFigure, Item: ReadPlace(f.Path), Body: Body{Origin: NotKnown}}
}

// acceptSheet takes the family's sheet as it is now, when it is newer and the
// route can be worked on it.
func (p *proposal) acceptSheet() error {
	working := p.state.on.sheet.Version
	if p.ledger.SheetNow == nil {
		return refuse(Conflict, sheetIsNewest, working)
	}
	next, err := p.ledger.SheetNow()
	if err != nil {
		return err
	}
	if next.Version <= working {
		return refuse(Conflict, sheetIsNewest, working)
	}
	w := p.state.works()
	w.take(next, Entry{})
	if _, err := p.state.plan.grounds(w.sheet, w.over, w.unknown); err != nil {
		return input.Below("sheet", unwrapped(err))
	}
	p.draft.Sheet, p.draft.Item = &next, Place{}
	return nil
}

// sheetWords says which version was taken, and what it says otherwise than the
// one before it.
func (s *State) sheetWords(e *Entry) string {
	next := e.Said().Sheet
	if next == nil {
		return "spec sheet"
	}
	before := s.plan.Sheet
	for i, x := range s.entries {
		if x.Act == ActSheet && x.Seq < e.Seq && s.by[i] == 0 && x.Said().Sheet != nil {
			before = *x.Said().Sheet
		}
	}
	changes := differences(s.plan.Glossary, before, *next)
	if len(changes) == 0 {
		changes = []string{"it says the same"}
	}
	return fmt.Sprintf("spec sheet, version %d from here on: %s", next.Version, strings.Join(changes, "; "))
}
