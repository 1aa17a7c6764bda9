package workshop

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"handwerk/core/metrology"
	"handwerk/core/plan"
)

// Plan is a rebuild's copy of the book with what follows from it, computed
// once per copy.
type Plan struct {
	plan.Copy
	Hash string
	Raw  json.RawMessage

	steps  []plan.Step
	at     map[string]int // step id -> index in steps
	places []plan.StationID
	groups map[string]torqueWork
}

// NewPlan prepares a copy for use.
func NewPlan(c plan.Copy) (*Plan, error) {
	raw, err := json.Marshal(c)
	if err != nil {
		return nil, fmt.Errorf("the copy of the book cannot be written: %w", err)
	}
	return ReadPlan(raw)
}

// ReadPlan prepares a stored copy for use.
func ReadPlan(raw []byte) (*Plan, error) {
	p := &Plan{Raw: raw, Hash: HashOf(raw), at: map[string]int{}, groups: map[string]torqueWork{}}
	if err := json.Unmarshal(raw, &p.Copy); err != nil {
		return nil, fmt.Errorf("the copy of the book cannot be read: %w", err)
	}
	for _, st := range p.Route.Stations {
		for _, s := range st.Steps {
			p.at[s.ID] = len(p.steps)
			p.steps = append(p.steps, s)
			p.places = append(p.places, st.ID)
			if s.Kind == plan.Torque {
				work, err := planTorque(s, p.Sheet.Torques[s.Group])
				if err != nil {
					return nil, err
				}
				p.groups[s.ID] = work
			}
		}
	}
	return p, nil
}

// Step finds a step of the plan.
func (p *Plan) Step(id string) (plan.Step, bool) {
	i, ok := p.at[id]
	if !ok {
		return plan.Step{}, false
	}
	return p.steps[i], true
}

// State is where every step stands, folded from the entries.
type State struct {
	plan  *Plan
	steps []stepState
	// needed remembers the answers of needs: gates ask for the same step often.
	needed map[string]string
	// superseded maps an entry to the one that corrected or struck it.
	superseded map[string]string
}

// stepState collects what the rules ask about one step.
type stepState struct {
	live     []Entry          // not superseded, strikes left out, in order
	first    map[string]Entry // live, by place
	changed  int              // sequence of the last entry that others may rest on
	computed []Entry          // all with a result, superseded too, and strikes of what results rest on
}

// Status of a step.
type Status string

// A step is locked by its gate, open, held by a decision, or done.
const (
	Locked Status = "locked"
	Open   Status = "open"
	Held   Status = "held"
	Done   Status = "done"
)

// Fold reads the record in order. It is cheap: bodies are decoded only where
// a rule needs them.
func Fold(p *Plan, entries []Entry) *State {
	s := &State{plan: p, steps: make([]stepState, len(p.steps)), superseded: map[string]string{}, needed: map[string]string{}}
	for _, e := range entries {
		if e.Supersedes != "" {
			s.superseded[e.Supersedes] = e.ID
		}
	}
	for _, e := range entries {
		i, ok := p.at[e.Step]
		if !ok {
			continue
		}
		st := &s.steps[i]
		if !slices.Contains(remarks, e.Act) {
			st.changed = e.Seq
		}
		if e.Method != "" || (e.Act == ActStrike && strings.Contains(e.Item, ".")) {
			st.computed = append(st.computed, e)
		}
		if _, gone := s.superseded[e.ID]; gone || e.Act == ActStrike {
			continue
		}
		st.live = append(st.live, e)
		if st.first == nil {
			st.first = map[string]Entry{}
		}
		if _, taken := st.first[placeOf(e.Act, e.Item)]; !taken {
			st.first[placeOf(e.Act, e.Item)] = e
		}
	}
	return s
}

// remarks are the acts that change no figure.
var remarks = []Act{ActNote, ActAcknowledge, ActOverride, ActPhoto, ActAccept}

// placeOf is the place an entry takes at its step. One live entry holds a
// place; to change it, it is corrected.
func placeOf(act Act, item string) string { return string(act) + " " + item }

func (s *State) of(step string) *stepState { return &s.steps[s.plan.at[step]] }

func (st *stepState) has(act Act, item string) (Entry, bool) {
	e, ok := st.first[placeOf(act, item)]
	return e, ok
}

// SupersededBy tells which entry replaced e.
func (s *State) SupersededBy(id string) string { return s.superseded[id] }

// Status of a step with what it still needs, in words.
func (s *State) Status(id string) (Status, string) {
	step := s.plan.steps[s.plan.at[id]]
	if blocked := s.blockedBy(step); len(blocked) > 0 {
		return Locked, "first: " + strings.Join(blocked, ", ")
	}
	needs := s.needs(step)
	switch {
	case needs == "":
		return Done, ""
	case strings.HasPrefix(needs, heldMark):
		return Held, strings.TrimPrefix(needs, heldMark)
	}
	return Open, needs
}

// blockedBy lists the titles of gating steps that are not done, unless the
// gate was overridden.
func (s *State) blockedBy(step plan.Step) []string {
	if _, ok := s.of(step.ID).has(ActOverride, ""); ok {
		return nil
	}
	var titles []string
	for _, gate := range step.After {
		before := s.plan.steps[s.plan.at[gate]]
		if s.needs(before) != "" {
			titles = append(titles, before.Title)
		}
	}
	return titles
}

// Place is where the rebuild stands: at the first step that holds it, or else
// at the first that can be worked at.
func (s *State) Place() Place {
	place := Place{Steps: len(s.plan.steps)}
	rank := 0
	for i, step := range s.plan.steps {
		status, needs := s.Status(step.ID)
		if status == Done {
			place.Done++
			continue
		}
		r := map[Status]int{Held: 3, Open: 2, Locked: 1}[status]
		if r <= rank {
			continue
		}
		rank = r
		place.Station, place.Step, place.WaitsFor = s.plan.places[i], step.ID, step.Title+": "+needs
		place.Held = status == Held
		place.Verdict = ""
		if v := s.lastVerdict(step.ID); status == Open && (v == metrology.Out || v == metrology.Undecided) {
			place.Verdict = v
		}
	}
	if place.Done == place.Steps {
		last := len(s.plan.steps) - 1
		place.Station, place.Step, place.Closed = s.plan.places[last], s.plan.steps[last].ID, true
	}
	return place
}

func (s *State) lastVerdict(step string) metrology.Verdict {
	live := s.of(step).live
	if len(live) == 0 {
		return ""
	}
	return live[len(live)-1].Verdict
}

// dueAt is when a wait is over.
func dueAt(step plan.Step, start Entry) time.Time {
	school := start.Said().Outcome
	for _, x := range step.Schools {
		if x.ID == school {
			return start.At.Add(time.Duration(float64(x.Wait.SI()) * float64(time.Second)))
		}
	}
	return start.At
}
