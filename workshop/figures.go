package workshop

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/text"
)

// FigureAsked is what the book knows of a figure, as a shop says it.
type FigureAsked struct {
	book.Figure          // its unit is the first to type it in
	Called      string   `json:"called"` // in a sentence: torque of the wheel nuts
	Units       []string `json:"units,omitempty"`
}

func askedIn(shop quantity.System, f book.Figure) FigureAsked {
	units := quantity.ChoicesIn(shop, f.Unit)
	if len(units) > 0 {
		f.Unit = units[0]
	}
	return FigureAsked{f, calledOf(f), units}
}

// calledOf is a figure within a sentence. A torque group's title alone says what is
// tightened, not how.
func calledOf(f book.Figure) string {
	if f.Shape == book.ShapeTorque {
		return "torque of the " + lowered(f.Title)
	}
	return lowered(f.Title)
}

// FigureView is a figure of the sheet that a step asks for, or that was said
// here; Said is set in the latter case.
type FigureView struct {
	FigureAsked
	May    bool            `json:"may,omitempty"` // the step goes on without it
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
		views = append(views, FigureView{FigureAsked: askedIn(s.units, f), May: !slices.Contains(step.waits, path)})
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
			FigureAsked: askedIn(s.units, f), Said: b.Figure, Says: s.figureWords(&e),
			Origin: b.Origin, Entry: e.ID, Step: e.Step, By: e.By.Name,
		})
	}
	return views
}

// isJudged tells that something is judged by a figure.
func isJudged(path string) bool {
	room, _, _ := strings.Cut(path, ".")
	return room == "limits" || room == "torques" || room == "fills"
}

// figureNamed is what the book knows of a figure, or its bare name.
func (p *Plan) figureNamed(path string, step *Step) book.Figure {
	f := book.NameFigure(p.Glossary, path)
	if f.Unit == "" && step.Measure != nil && f.Shape == book.ShapeLimit {
		f.Unit = step.Measure.Unit
	}
	return f
}

// figureCalled is a figure within a sentence.
func (p *Plan) figureCalled(path string, step *Step) string {
	return calledOf(p.figureNamed(path, step))
}

func (s *State) figureWords(e *Entry) string {
	b := e.Said()
	step, _ := s.plan.Step(e.Step)
	title := raised(s.plan.figureCalled(e.Item.Name, step))
	switch {
	case b.Origin == NotKnown && isJudged(e.Item.Name):
		return title + ": not known, worked without a verdict"
	case b.Origin == NotKnown:
		return title + ": not known"
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
		return refuse(Conflict, sheetSays, p.state.plan.figureCalled(path, p.step))
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
	ground := book.Ground{Sheet: g.sheet, Figures: g.figures, Steps: map[string]book.Step{}, Kinds: plan.kinds.natures()}
	for _, s := range plan.Steps {
		ground.Steps[s.ID] = s.Step
	}
	for i, s := range plan.Steps {
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
	if missing := p.state.waitsFor(p.step); len(missing) > 0 {
		return refuse(GateClosed, figuresFirst, idsOf(missing, func(path string) string { return p.state.plan.figureCalled(path, p.step) }))
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
