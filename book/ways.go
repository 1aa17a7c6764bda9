package book

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"handwerk/core/input"
)

// walker goes one condition of a route along all orders that its gates allow, and
// all answers. What it finds is told at the step where the hand would be wrong.
type walker struct {
	*Checker
	route  Route
	at     map[string]string          // path of each step
	before map[string]map[string]bool // all that must be done before a step
	last   string                     // the step that closes the route
}

// ways refuses a route on which something may stand otherwise than a step wants it,
// or than it is handed over.
func (c *Checker) ways(r Route) {
	w := walker{Checker: c, route: r, at: map[string]string{}, before: map[string]map[string]bool{}}
	direct := map[string][]string{}
	for i, st := range r.Stations {
		for j, s := range st.Steps {
			w.at[s.ID] = fmt.Sprintf("stations[%d].steps[%d]", i, j)
			direct[s.ID] = slices.Concat(s.After, s.BoundTo())
			w.last = s.ID
		}
	}
	for id := range w.at {
		w.before[id] = map[string]bool{}
		gather(id, direct, w.before[id])
	}
	list := r.Standings(c.known.Conditions)
	for _, x := range list {
		w.walk(x)
	}
	w.cautions(list)
}

func gather(id string, direct map[string][]string, into map[string]bool) {
	for _, gate := range direct[id] {
		if !into[gate] {
			into[gate] = true
			gather(gate, direct, into)
		}
	}
}

// stand is a place on the way of one condition: which of its changing steps are
// done, and how it stands.
type stand struct {
	done  int // a bit for each changing step
	state string
}

// pass is one condition with its changing steps, each with what it may leave.
type pass struct {
	Standing
	steps []string
	may   [][]Changed
}

func passOf(x Standing) pass {
	p := pass{Standing: x}
	for _, ch := range x.Changes {
		i := slices.Index(p.steps, ch.Step)
		if i < 0 {
			i = len(p.steps)
			p.steps, p.may = append(p.steps, ch.Step), append(p.may, nil)
		}
		p.may[i] = append(p.may[i], ch)
	}
	return p
}

// mostChanging is how many steps of a route may change one condition; the walk
// doubles with each that no gate orders.
const mostChanging = 16

func (w walker) walk(x Standing) {
	p := passOf(x)
	if len(p.steps) > mostChanging {
		w.Add("stations", fmt.Sprintf("up to %d steps that change one condition", mostChanging), "%s: %d of them",
			x.Name, len(p.steps))
		return
	}
	reached, begunIn := w.reach(p)
	w.wanted(p, reached)
	w.soAlready(p, begunIn)
	w.handedOver(p, reached)
}

// reach is every stand that the gates and the answers allow, with the step that left
// it so, and the states in which each changing step may be begun.
func (w walker) reach(p pass) (reached map[stand]string, begunIn []map[string]bool) {
	begunIn = make([]map[string]bool, len(p.steps))
	for i := range begunIn {
		begunIn[i] = map[string]bool{}
	}
	reached = map[stand]string{{0, p.Home()}: ""}
	for queue := []stand{{0, p.Home()}}; len(queue) > 0; queue = queue[1:] {
		at := queue[0]
		for i, step := range p.steps {
			if at.done&(1<<i) != 0 || !w.open(p, step, at.done) {
				continue
			}
			begunIn[i][at.state] = true
			for _, next := range leaves(p.may[i], at.state) {
				to := stand{at.done | 1<<i, next}
				if _, known := reached[to]; known {
					continue
				}
				reached[to] = step
				if next == at.state {
					reached[to] = reached[at]
				}
				queue = append(queue, to)
			}
		}
	}
	return reached, begunIn
}

// open tells whether a step may be begun when these changing steps are done: all
// that must come before it are, and none that must come after.
func (w walker) open(p pass, step string, done int) bool {
	for i, other := range p.steps {
		is := done&(1<<i) != 0
		if (w.before[step][other] && !is) || (w.before[other][step] && is) {
			return false
		}
	}
	return true
}

// leaves are the states that a step may leave something in. Its lines are answered
// one after the other.
func leaves(may []Changed, from string) []string {
	states := []string{from}
	for _, item := range itemsOf(may) {
		var next []string
		for _, from := range states {
			next = append(next, answered(may, item, from)...)
		}
		states = next
	}
	slices.Sort(states)
	return slices.Compact(states)
}

func itemsOf(may []Changed) (items []string) {
	for _, ch := range may {
		if !slices.Contains(items, ch.Item) {
			items = append(items, ch.Item)
		}
	}
	return items
}

// answered are the states after one line; where no answer is possible it is not asked.
func answered(may []Changed, item, from string) (states []string) {
	for _, ch := range may {
		if ch.Item == item && ch.Fits(from) {
			states = append(states, cmp.Or(ch.State, from))
		}
	}
	if len(states) == 0 {
		return []string{from}
	}
	return states
}

// wanted: a step's wants hold whenever its gates are open.
func (w walker) wanted(p pass, reached map[stand]string) {
	for _, want := range p.Wants {
		if bad := w.otherwise(p, reached, want.Step, want.Any); len(bad) > 0 {
			w.Add(
				input.Join(w.at[want.Step], "wants."+want.Key),
				"gates behind which it is "+strings.Join(want.Any, " or "),
				"when the gates are open, %s may be %s",
				p.Name,
				strings.Join(bad, ", or "),
			)
		}
	}
}

// otherwise are the states that are none of these and in which a step may be begun.
func (w walker) otherwise(p pass, reached map[stand]string, step string, good []string) (bad []string) {
	own := slices.Index(p.steps, step)
	for at, by := range reached {
		begun := own >= 0 && at.done&(1<<own) != 0
		if !begun && w.open(p, step, at.done) && !slices.Contains(good, at.state) {
			bad = append(bad, at.state+w.since(by))
		}
	}
	slices.Sort(bad)
	return slices.Compact(bad)
}

func (w walker) since(step string) string {
	if step == "" {
		return ""
	}
	return fmt.Sprintf(" since %q", step)
}

// soAlready: nothing is done that is so on every way.
func (w walker) soAlready(p pass, begunIn []map[string]bool) {
	for i, step := range p.steps {
		for _, ch := range p.may[i] {
			if ch.State != "" && ch.Item == "" && ch.Outcome == "" && len(begunIn[i]) == 1 && begunIn[i][ch.State] {
				w.Add(w.at[step], "a step that changes something", "%s is %s already", p.Name, ch.State)
			}
		}
	}
}

// handedOver: when the last step is begun all is as it goes home, on every way.
func (w walker) handedOver(p pass, reached map[stand]string) {
	if bad := w.otherwise(p, reached, w.last, []string{p.Home()}); len(bad) > 0 {
		w.Add(w.at[w.last], p.Home()+" at hand-over", "%s may still be %s", p.Name, strings.Join(bad, ", or "))
	}
}

// cautions: what a caution speaks of can be so at its step.
func (w walker) cautions(list []Standing) {
	for i, st := range w.route.Stations {
		for j, s := range st.Steps {
			for k, id := range s.Cautions {
				for key, state := range w.known.CautionsIn[id] {
					if !w.canBe(list, s.ID, key, state) {
						w.Add(fmt.Sprintf("stations[%d].steps[%d].cautions[%d]", i, j, k),
							"a step at which "+key+" is "+state, "%q cannot be at this step", id)
					}
				}
			}
		}
	}
}

// canBe tells whether something may be in a state when a step is begun or done.
func (w walker) canBe(list []Standing, step, key, state string) bool {
	i := slices.IndexFunc(list, func(x Standing) bool { return x.ID == key })
	if i < 0 {
		j := slices.IndexFunc(w.known.Conditions, func(x Condition) bool { return x.ID == key })
		return j >= 0 && w.known.Conditions[j].Home() == state
	}
	p := list[i]
	if p.Home() == state && !slices.ContainsFunc(p.Changes, func(ch Changed) bool { return w.before[step][ch.Step] }) {
		return true
	}
	return slices.ContainsFunc(p.Changes, func(ch Changed) bool {
		return ch.State == state && (ch.Step == step || !w.before[ch.Step][step])
	})
}
