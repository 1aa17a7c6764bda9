package record

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/text"
	"handwerk/workshop/acts"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// FigureView is a figure of the sheet that a step asks for, or that was said
// here; Said is set in the latter case.
type FigureView struct {
	shop.FigureAsked
	May bool `json:"may,omitempty"` // the step goes on without it
	// Grave: it is not left unknown; size and class give a figure in its place.
	Grave  bool            `json:"grave,omitempty"`
	Said   json.RawMessage `json:"said,omitempty"`
	Says   string          `json:"says,omitempty"`
	Origin acts.Origin     `json:"origin,omitempty" enum:"makers-book,plate,measured,measured-here,judgement,by-size,not-here,not-known"`
	Entry  string          `json:"entry,omitempty"` // to correct it, where it was said at this step
	Step   string          `json:"step,omitempty"`  // where it was said
	By     string          `json:"by,omitempty"`
}

// figureViews are what a step asks the sheet for, and what was answered of it.
func figureViews(s *State, step *Step) []FigureView {
	views := []FigureView{}
	for _, path := range s.On.wants[step.At] {
		f := s.Plan.figureNamed(path, step)
		views = append(views, FigureView{FigureAsked: shop.AskIn(s.Units, f), May: !slices.Contains(step.waits, path),
			Grave: isGraveTorque(path)})
	}
	asked := map[string]bool{}
	for _, path := range step.wants {
		asked[book.Answer(path)] = true
	}
	for i, e := range s.Entries {
		if !e.Is(acts.Figure{}) || s.Superseded[i] > 0 || !asked[e.Item.Name] {
			continue
		}
		b, f := As[acts.Figure](&e), s.Plan.figureNamed(e.Item.Name, step)
		views = append(views, FigureView{
			FigureAsked: shop.AskIn(s.Units, f), Said: b.Figure, Says: figureWords(s, &e),
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

// FigureCalled is a figure within a sentence.
func (p *Plan) FigureCalled(path string, step *Step) string {
	return shop.CallOf(p.figureNamed(path, step))
}

func figureSaid(s *State, _ *Step, e *Entry) string { return figureWords(s, e) }

// houseFigures are of money that is no matter of the customer's paper.
var houseFigures = []string{"ways", "singles", "kits", "figures.cans", "figures.cost-per-day", "figures.hourly-rate"}

func figurePaper(s *State, _ *Step, e *Entry) string {
	if slices.Contains(houseFigures, e.Item.Name) {
		return ""
	}
	return figureWords(s, e)
}

func figureWords(s *State, e *Entry) string {
	b := As[acts.Figure](e)
	step, _ := s.Plan.Step(e.Step)
	title := say.Raise(s.Plan.FigureCalled(e.Item.Name, step))
	switch {
	case b.Origin == acts.NotKnown || b.Origin == acts.NotHere:
		return unknownWords(title, e.Item.Name, b)
	case b.Origin == acts.BySize && b.Sized != nil:
		return title + ": " + sizedWords(b)
	}
	return title + ": " + book.FigureWords(b.Figure) + ", " + b.Origin.Words()
}

// acceptFigure takes a figure of the sheet that a step wants.
func acceptFigure(p *Attempt) error {
	said := Saying[acts.Figure](p)
	path := p.Draft.Item.String()
	if !slices.ContainsFunc(p.Step.wants, func(w string) bool { return book.Answer(w) == path }) {
		return input.At("item", strings.Join(p.State.On.wants[p.Step.At], ", "), "the step asks for no figure %q", path)
	}
	if !said.Origin.IsKnown() {
		return input.At("origin", "makers-book, plate, measured, measured-here, judgement, not-known",
			"%q is not a source", said.Origin)
	}
	if _, copied := p.State.Plan.ground.Figures[path]; copied && !slices.Contains(p.State.On.wants[p.Step.At], path) {
		return say.Refuse(say.Conflict, say.SheetSays, p.State.Plan.FigureCalled(path, p.Step))
	}
	p.Draft.Item = Place{Name: path}
	switch room, _, _ := strings.Cut(path, "."); {
	case said.Origin == acts.BySize:
		return p.bySize(path, said)
	case said.Origin == acts.NotKnown && isGraveTorque(path):
		return input.At("origin", "by-size with the bolt's size, class and finish, or not-here",
			"this torque is never left to feel")
	case said.Origin == acts.NotHere && room != "torques":
		return input.At("origin", "an origin of this figure", "only bolts can be missing on a vehicle")
	}
	if said.Origin == acts.NotKnown || said.Origin == acts.NotHere {
		if len(said.Figure) > 0 {
			return input.At("figure", "nothing: it is not known", "a figure that is not known has no value")
		}
		return nil
	}
	if said.Origin == acts.FromMaker && strings.TrimSpace(said.Note) == "" {
		return input.At("note", "the page, like page 112", "a figure from the workshop manual needs its page")
	}
	if len(said.Figure) == 0 || len(said.Figure) > shop.MaxFigure {
		return input.At("figure", "its value, up to 20 kB", "missing or too long")
	}
	if problem := text.Bad(string(said.Figure)); problem != "" {
		return input.At("figure", text.Accepted, "%s", problem)
	}
	read, err := p.State.Plan.figureNamed(path, p.Step).Typed(said.Figure)
	if err != nil {
		return input.Below("figure", err)
	}
	said.Figure = read
	return p.figureFits(path, read)
}

// figureFits lays the figure over the sheet and asks every step that wants it
// whether it can be worked with.
func (p *Attempt) figureFits(path string, figure json.RawMessage) error {
	w := p.State.works()
	w.over[path] = figure
	delete(w.unknown, path)
	plan := p.State.Plan
	g, err := plan.grounds(w.sheet, w.over, w.unknown)
	if err != nil {
		return input.Below("figure", shop.Unwrap(err))
	}
	var faults input.Fields
	for _, f := range g.Sheet.Check() {
		if rest, mine := strings.CutPrefix(f.Path, path); mine {
			faults.Add(input.Join("figure", strings.TrimPrefix(rest, ".")), f.Accepted, "%s", f.Problem)
		}
	}
	ground := book.Ground{Sheet: g.Sheet, Figures: g.Figures, Steps: map[string]book.Step{},
		Kinds: plan.kinds.Natures()}
	for _, s := range plan.Steps {
		ground.Steps[s.ID] = s.Step
	}
	for i, s := range plan.Steps {
		wanted := slices.ContainsFunc(s.wants, func(w string) bool { return book.Answer(w) == path })
		if !wanted || g.blind[i] || len(g.wants[i]) > 0 || s.Rules.Misfits == nil || len(faults) > 0 {
			continue
		}
		for _, f := range s.Rules.Misfits(s.Step, ground) {
			faults.Add("figure", f.Accepted, "%s: %s", s.Title, f.Problem)
		}
	}
	if len(faults) == 0 {
		faults = append(faults, p.figureUnit(path, g)...)
	}
	return faults.Err()
}

// figureUnit holds a limit against the unit of what lies between it.
func (p *Attempt) figureUnit(path string, g *grounds) (faults input.Fields) {
	limit, ok := g.Sheet.Limits[strings.TrimPrefix(path, "limits.")]
	if !ok || !strings.HasPrefix(path, "limits.") || p.Step.Measure == nil || "limits."+LimitOf(p.Step) != path {
		return nil
	}
	want, known := quantity.UnitNamed(p.Step.Measure.Unit)
	for _, side := range []quantity.Any{limit.Min, limit.Max} {
		if known && side.IsSaid() && side.Dimension() != want.Dimension {
			faults.Add("figure", "a "+string(want.Dimension), "%s is a %s", side, side.Dimension())
		}
	}
	return faults
}

// figuresKnown: what the step wants of the sheet is asked for before its work begins.
func (p *Attempt) figuresKnown() error {
	if !slices.Contains(p.Step.Rules.Takes, p.act) {
		return nil
	}
	if missing := p.State.waitsFor(p.Step); len(missing) > 0 {
		return say.Refuse(say.GateClosed, say.FiguresFirst,
			say.ListOf(missing, func(path string) string { return p.State.Plan.FigureCalled(path, p.Step) }))
	}
	return nil
}

// acceptSheet takes the family's sheet as it is now, when it is newer and the
// route can be worked on it.
func acceptSheet(p *Attempt) error {
	working := p.State.On.Sheet.Version
	if p.Ledger.SheetNow == nil {
		return say.Refuse(say.Conflict, say.SheetIsNewest, working)
	}
	next, err := p.Ledger.SheetNow()
	if err != nil {
		return err
	}
	if next.Version <= working {
		return say.Refuse(say.Conflict, say.SheetIsNewest, working)
	}
	w := p.State.works()
	w.take(next, Entry{})
	if _, err := p.State.Plan.grounds(w.sheet, w.over, w.unknown); err != nil {
		return input.Below("sheet", shop.Unwrap(err))
	}
	Saying[acts.Sheet](p).Sheet, p.Draft.Item = &next, Place{}
	return nil
}

// sheetWords says which version was taken, and what it says otherwise than the
// one before it.
func sheetWords(s *State, _ *Step, e *Entry) string {
	next := As[acts.Sheet](e).Sheet
	if next == nil {
		return "spec sheet"
	}
	before := s.Plan.Sheet
	for i, x := range s.Entries {
		if said, is := x.ReadAct().(*acts.Sheet); is && x.Seq < e.Seq && s.Superseded[i] == 0 && said.Sheet != nil {
			before = *said.Sheet
		}
	}
	changes := shop.Differences(s.Plan.Glossary, before, *next)
	if len(changes) == 0 {
		changes = []string{"the spec sheet already has this figure"}
	}
	return fmt.Sprintf("spec sheet, version %d from here on: %s", next.Version, strings.Join(changes, "; "))
}

// HolderOf names the sheet a figure said in a rebuild is kept in.
func HolderOf(l Ledger, e Entry) string {
	step, _ := l.Plan.Step(e.Step)
	if l.Plan.figureNamed(e.Item.Name, step).Of == book.OfVehicle {
		return shop.VehicleSheet + l.Rebuild.Vehicle.ID
	}
	return l.Rebuild.Unit.Sheet
}
