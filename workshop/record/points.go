package record

import (
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
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

// IsJudged tells that an answer at a step which is not good wants a reason: from
// where the unit goes together again. What was found before is what the work is for.
func (s *Step) IsJudged() bool {
	return book.StationAt(s.Station) >= book.StationAt(book.AssembleAt)
}

// IsSigned tells that a lead signed the rebuild off.
func IsSigned(s *State) bool {
	last := s.Plan.Steps[len(s.Plan.Steps)-1]
	_, ok := s.At(last).Has(acts.Decision{}, Place{})
	return ok && last.Role == string(people.Lead)
}

// FindOpen is the first line of a judged step whose answer is not good and has
// no reason yet.
func FindOpen(s *State, step *Step) (Need, bool) {
	if !step.IsJudged() || IsSigned(s) {
		return Need{}, false
	}
	for _, bad := range step.Rules.Bad(s, step) {
		if bad.Left == "" {
			return Need{What: BadAnswer, Place: ReadPlace(bad.Item), Names: []string{bad.Says}}, true
		}
	}
	return Need{}, false
}

// Points are all of them, in the order of the route.
func Points(s *State) []Point {
	list := []Point{}
	for _, step := range s.Plan.Steps {
		if step.IsJudged() && step.Rules.Bad != nil {
			for _, p := range step.Rules.Bad(s, step) {
				p.Item = ""
				list = append(list, p)
			}
		}
		if step.Rules.Left != nil {
			list = append(list, step.Rules.Left(s, step)...)
		}
		st := s.At(step)
		for e := range st.Each(st.Live) {
			switch said := e.ReadAct().(type) {
			case *acts.Skip:
				list = append(
					list,
					Point{Step: step.ID, Title: step.Title, Says: "not needed", Left: said.Reason, By: e.By.Name},
				)
			case *acts.Figure:
				if leadAnswers(said.Origin, e.Item.String()) {
					list = append(list, unknownPoint(s, step, e))
				}
			}
		}
	}
	return list
}

// leadAnswers tells of a figure that a lead answers for before he signs.
func leadAnswers(from acts.Origin, path string) bool {
	return (from == acts.NotKnown && holdsAWheel(path)) || (from == acts.BySize && isGraveTorque(path))
}

func unknownPoint(s *State, step *Step, e *Entry) Point {
	p := Point{Step: step.ID, Title: step.Title, Says: figureWords(s, e), By: e.By.Name, Item: e.Item.String()}
	last := s.Plan.Steps[len(s.Plan.Steps)-1]
	if said, _ := FindAct[acts.Outcome](s, last, e.Item); said != nil {
		p.Answer = said.Note
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
