package workshop

import (
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
)

// What does not read well in a record before it is signed: answers that are not
// good once the unit goes together, and torques nobody knows where a wheel may
// come off. An answer that is not good holds its step until it is given again,
// or left with a reason; a figure not known is answered by the lead.

// Point is one of them.
type Point struct {
	Step  string `json:"step"`
	Title string `json:"title"` // of the step
	Says  string `json:"says"`
	By    string `json:"by"`
	Left  string `json:"left,omitempty"` // the reason it was left with
	// Item is where the lead's answer to it is said, where one is wanted; Answer
	// is what was said.
	Item   string `json:"item,omitempty"`
	Answer string `json:"answer,omitempty"`
}

// answered is the outcome of a lead's answer to a point.
const answered = "answered"

// isJudged tells that an answer at a step which is not good wants a reason: from
// where the unit goes together again. What was found before is what the work is for.
func (s *Step) isJudged() bool {
	return book.StationAt(s.Station) >= book.StationAt(book.AssembleAt)
}

// isSigned tells that a lead signed the rebuild off.
func (s *State) isSigned() bool {
	last := s.plan.Steps[len(s.plan.Steps)-1]
	_, ok := s.of(last).has(ActDecision, Place{})
	return ok && last.Role == string(Lead)
}

// leftOpen is the first line of a judged step whose answer is not good and has
// no reason yet.
func (s *State) leftOpen(step *Step) (Need, bool) {
	if !step.isJudged() || s.isSigned() {
		return Need{}, false
	}
	for _, bad := range step.kind.bad(s, step) {
		if bad.Left == "" {
			return Need{What: BadAnswer, Place: ReadPlace(bad.Item), Names: []string{bad.Says}}, true
		}
	}
	return Need{}, false
}

// points are all of them, in the order of the route.
func (s *State) points() []Point {
	list := []Point{}
	for _, step := range s.plan.Steps {
		if step.isJudged() && step.kind.bad != nil {
			for _, p := range step.kind.bad(s, step) {
				p.Item = ""
				list = append(list, p)
			}
		}
		if step.kind.left != nil {
			list = append(list, step.kind.left(s, step)...)
		}
		st := s.of(step)
		for e := range st.each(st.live) {
			switch said := e.Said(); {
			case e.Act == ActSkip:
				list = append(list, Point{Step: step.ID, Title: step.Title, Says: "not needed", Left: said.Reason, By: e.By.Name})
			case e.Act == ActFigure && said.Origin == NotKnown && holdsAWheel(e.Item.String()):
				list = append(list, s.unknownPoint(step, e))
			}
		}
	}
	return list
}

func (s *State) unknownPoint(step *Step, e *Entry) Point {
	p := Point{Step: step.ID, Title: step.Title, Says: s.figureWords(e), By: e.By.Name, Item: e.Item.String()}
	last := s.plan.Steps[len(s.plan.Steps)-1]
	if said, ok := s.of(last).has(ActOutcome, e.Item); ok {
		p.Answer = said.Said().Note
	}
	return p
}

// holdsAWheel tells of a figure that flywheel, wheel, hub or axle nut hang on
// (common practice: these come loose on the road).
func holdsAWheel(path string) bool {
	room, name, _ := strings.Cut(path, ".")
	return (room == "torques" || room == "limits") && (name == "axle" || slices.ContainsFunc(
		[]string{"wheel", "axle-nut", "hub"}, func(w string) bool { return strings.Contains(name, w) },
	))
}

// acceptAnswer takes the lead's answer to a point, at the sign-off.
func (p *proposal) acceptAnswer() error {
	wanted := slices.DeleteFunc(p.state.points(), func(x Point) bool { return x.Item == "" })
	if !slices.ContainsFunc(wanted, func(x Point) bool { return ReadPlace(x.Item) == p.draft.Item }) {
		return input.At("item", idsOf(wanted, func(x Point) string { return x.Item }), "nothing at %q wants an answer", p.draft.Item.String())
	}
	if err := p.outcomeAmong(answered); err != nil {
		return err
	}
	if strings.TrimSpace(p.draft.Note) == "" {
		return input.At("note", "what was done about it", "an answer wants words")
	}
	return nil
}

// allAnswered guards a signature: the lead has answered what wants it.
func (p *proposal) allAnswered() error {
	var open []string
	for _, x := range p.state.points() {
		if x.Item != "" && x.Answer == "" {
			open = append(open, x.Says)
		}
	}
	if len(open) > 0 {
		return refuse(GateClosed, notAllAnswered, strings.Join(open, "; "))
	}
	return nil
}
