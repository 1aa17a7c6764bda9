package workshop

import (
	"fmt"
	"slices"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Summary is what stands on the first page of a record: for who reads one page.
type Summary struct {
	Agreed  []string `json:"agreed"`  // the way that was decided, and the customer's yes
	Found   []string `json:"found"`   // the cause, and what was worn or missing
	Fitted  []string `json:"fitted"`  // what is new, which oil, which packs
	Results []string `json:"results"` // a line each of what was measured, tightened, proved
	Open    []string `json:"open"`    // what does not read well, with the reason it was left
}

func (s *State) summary() Summary {
	sum := Summary{Agreed: []string{}, Found: []string{}, Fitted: []string{}, Results: []string{}, Open: []string{}}
	for _, step := range s.plan.steps {
		sum.add(s, step)
	}
	for _, line := range []string{s.measuredLine(), s.tightenedLine(), s.provedLine()} {
		if line != "" {
			sum.Results = append(sum.Results, line)
		}
	}
	for _, p := range s.points() {
		says := p.Title + ": " + p.Says
		if strings.Contains(strings.ToLower(p.Says), strings.ToLower(p.Title)) {
			says = raised(p.Says)
		}
		for _, why := range []string{p.Left, p.Answer} {
			if why != "" {
				says += " (" + why + ")"
			}
		}
		sum.Open = append(sum.Open, says)
	}
	return sum
}

func (sum *Summary) add(s *State, step *Step) {
	switch step.Kind {
	case book.Decide:
		sum.addDecision(s, step)
	case book.Stack:
		if step.Work == book.Remove {
			sum.addParts(s.Stack(step))
		}
	case book.Fill:
		st := s.of(step)
		for e := range st.each(st.live) {
			if e.Act == ActFilled {
				sum.Fitted = append(sum.Fitted, step.Title+": "+s.words(step, e))
			}
		}
	case book.Measure:
		if trials := s.Trials(step); len(trials[len(trials)-1].Pack) > 0 && !s.measuredAgain(step) {
			sum.Fitted = append(sum.Fitted, step.Title+": pack "+PackWords(trials[len(trials)-1].Pack))
		}
	}
}

// measuredAgain tells that a later step measures the same pack, as it will run.
func (s *State) measuredAgain(step *Step) bool {
	return slices.ContainsFunc(s.plan.steps[step.at+1:], func(x *Step) bool { return x.fitsTheSame(step) })
}

func (sum *Summary) addDecision(s *State, step *Step) {
	e, ok := s.of(step).has(ActDecision, Place{})
	switch {
	case !ok || step.Role == string(Lead):
	case step.FromBook == book.FromCauses:
		sum.Found = append(sum.Found, "Cause: "+s.words(step, &e))
	case step.agrees():
		says := step.Title + ": " + s.words(step, &e)
		if yes := s.agreed(step); yes != nil && !yes.Stale {
			says += ". " + agreedWords(Body{Name: yes.Name, Sum: yes.Sum}) + ", " + Moment(yes.At, s.zone)
		}
		sum.Agreed = append(sum.Agreed, says)
	}
}

// addParts says what was wrong with the parts of a stack, and which are new.
func (sum *Summary) addParts(parts []StackPart) {
	var renewed []string
	for _, p := range parts {
		if p.Verdict == partReplace && p.Fitted == partFitted {
			renewed = append(renewed, lowered(p.Name))
		}
		if p.Reason != "" && p.Verdict != "" && p.Verdict != partReuse && !p.Once {
			sum.Found = append(sum.Found, p.Name+": "+p.Reason)
		}
		if p.NotFound {
			sum.Found = append(sum.Found, p.Name+": missing")
		}
	}
	if len(renewed) > 0 {
		sum.Fitted = append(sum.Fitted, "New: "+strings.Join(renewed, ", "))
	}
}

func (s *State) measuredLine() string {
	var said []string
	for _, step := range s.plan.steps {
		if step.Kind != book.Measure || !step.isSetting() {
			continue
		}
		trials := s.Trials(step)
		t := trials[len(trials)-1]
		if mean := meanWords(t.Result); mean != "" {
			said = append(said, strings.TrimSuffix(step.Title+" "+mean+", "+string(t.Verdict), ", "))
		}
	}
	return labelled("Measured: ", said)
}

// isSetting tells that what is read at a step is how the unit goes out.
func (s *Step) isSetting() bool {
	return book.StationAt(s.Station) >= book.StationAt(book.MeasureAt)
}

func (s *State) tightenedLine() string {
	var said []string
	for _, step := range s.plan.steps {
		if step.Kind != book.Torque {
			continue
		}
		status, _ := s.Status(step)
		if work := s.torqueAt(step); status == Done && len(work.cells) > 0 {
			last := work.cells[len(work.cells)-1]
			says := fmt.Sprintf("%s %s", lowered(step.Title), s.inShop(last.Setting.Any))
			if last.AngleDeg > 0 {
				says += fmt.Sprintf(" and on by %s°", input.Plain(last.AngleDeg))
			}
			said = append(said, says)
		}
	}
	return labelled("Tightened to its last pass: ", said)
}

// inShop says a figure of the sheet in the unit the shop reads, to its usual places.
func (s *State) inShop(q quantity.Any) string {
	u := q.Unit.For(s.units)
	if u == q.Unit {
		return q.String()
	}
	return fmt.Sprintf("%.*f %s", u.Decimals, quantity.Say(quantity.Magnitude(q.SI()), u).Value, u.Symbol)
}

func (s *State) provedLine() string {
	tried, bad := 0, []string{}
	for _, step := range s.plan.steps {
		if book.StationAt(step.Station) != book.StationAt(book.ProveAt) {
			continue
		}
		for _, item := range step.Items {
			if _, ok := s.of(step).has(ActOutcome, ReadPlace(item.ID)); ok {
				tried++
			}
		}
		for _, p := range s.badAnswers(step) {
			bad = append(bad, p.Says)
		}
	}
	switch {
	case tried == 0:
		return ""
	case len(bad) == 0:
		return fmt.Sprintf("Proved: %s, all as they should be", several(tried, "point", "points"))
	}
	return fmt.Sprintf("Proved: %s, not as it should be: %s", several(tried, "point", "points"), strings.Join(bad, "; "))
}

func labelled(label string, said []string) string {
	if len(said) == 0 {
		return ""
	}
	return label + strings.Join(said, "; ")
}
