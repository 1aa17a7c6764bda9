package workshop

import (
	"encoding/json"
	"fmt"
	"iter"
	"maps"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"handwerk/book"
	"handwerk/core/metrology"
)

// Plan is a rebuild's copy of the book with what follows from it, computed
// once per copy.
type Plan struct {
	book.Copy
	Hash string
	Raw  json.RawMessage

	steps  []book.Step
	at     map[string]int // step id -> index in steps
	places []book.StationID
	groups map[string]torqueWork
	bound  [][]string // the earlier steps whose figures a step takes
	// leaning lists, for each step, those whose needs rest on its entries: itself,
	// the other work on its stack, and what takes a figure from it.
	leaning [][]int
}

// NewPlan prepares a copy for use.
func NewPlan(c book.Copy) (*Plan, error) {
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
			if s.Kind == book.Torque {
				work, err := planTorque(s, p.Sheet.Torques[s.Group])
				if err != nil {
					return nil, err
				}
				p.groups[s.ID] = work
			}
		}
	}
	p.lean()
	return p, nil
}

func (p *Plan) lean() {
	p.leaning, p.bound = make([][]int, len(p.steps)), make([][]string, len(p.steps))
	for i, step := range p.steps {
		p.bound[i] = step.BoundTo()
		for _, on := range append([]string{step.ID, step.Of}, p.bound[i]...) {
			if at, ok := p.at[on]; ok {
				p.leaning[at] = append(p.leaning[at], i)
			}
		}
	}
}

// Step finds a step of the plan.
func (p *Plan) Step(id string) (book.Step, bool) {
	i, ok := p.at[id]
	if !ok {
		return book.Step{}, false
	}
	return p.steps[i], true
}

// State is where every step stands, folded from the entries. It never changes
// once it is made, so that many may read it; with adds an entry to a new one.
type State struct {
	plan    *Plan
	zone    *time.Location
	entries []Entry
	tail    *tail
	by      []int32 // for each entry: 1 + the index of the one that corrected or struck it, 0 if none
	steps   []stepState
	// needed remembers the answers of needs: gates ask for the same step often.
	needed []atomic.Pointer[string]
}

// stepState collects what the rules ask about one step, by index of entry.
type stepState struct {
	all      []int32
	live     []int32           // not superseded, strikes left out, in order
	first    map[holding]int32 // live, by place
	changed  int               // sequence of the last entry that others may rest on
	computed []int32           // all with a result, superseded too, and strikes of what results rest on
}

// holding is the place an entry takes at its step. One live entry holds a
// place; to change it, it is corrected.
type holding struct {
	act  Act
	item string
}

// tail says how much of the memory behind a record is in use: the states of
// one record share it, and only one of them may write the next entry there.
type tail struct {
	mu   sync.Mutex
	used int
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
	s := &State{
		plan: p, entries: entries[:len(entries):len(entries)], tail: &tail{used: len(entries)},
		by: make([]int32, len(entries)), steps: make([]stepState, len(p.steps)), needed: make([]atomic.Pointer[string], len(p.steps)),
	}
	ids := map[string]int32{}
	for i, e := range entries {
		if e.Supersedes != "" {
			ids[e.Supersedes] = int32(i) + 1
		}
	}
	for i, e := range entries {
		s.by[i] = ids[e.ID]
		if at, ok := p.at[e.Step]; ok {
			s.steps[at].add(int32(i), e, s.by[i] > 0)
		}
	}
	return s
}

// with is the state with one more entry: only its step is folded anew, and
// only the steps that lean on that one forget what they need.
func (s *State) with(e Entry) *State {
	next := &State{plan: s.plan, zone: s.zone, steps: slices.Clone(s.steps), needed: make([]atomic.Pointer[string], len(s.needed))}
	next.entries, next.tail = s.grown(e)
	next.by = append(slices.Clone(s.by), 0)
	at, ok := s.plan.at[e.Step]
	if !ok {
		return next
	}
	st := s.steps[at].clone()
	if e.Supersedes != "" {
		st.supersede(s, next.by, e)
	}
	st.add(int32(len(s.entries)), e, false)
	next.steps[at] = st
	for i := range s.needed {
		if !slices.Contains(s.plan.leaning[at], i) {
			next.needed[i].Store(s.needed[i].Load())
		}
	}
	return next
}

// grown appends to the record's memory, or to a copy when another state has
// written there already.
func (s *State) grown(e Entry) ([]Entry, *tail) {
	s.tail.mu.Lock()
	defer s.tail.mu.Unlock()
	if s.tail.used == len(s.entries) && cap(s.entries) > len(s.entries) {
		s.tail.used++
		return append(s.entries, e), s.tail
	}
	room := make([]Entry, len(s.entries), len(s.entries)+max(16, len(s.entries)/4))
	copy(room, s.entries)
	return append(room, e), &tail{used: len(s.entries) + 1}
}

func (st stepState) clone() stepState {
	st.all, st.live, st.computed = slices.Clone(st.all), slices.Clone(st.live), slices.Clone(st.computed)
	st.first = maps.Clone(st.first)
	return st
}

// supersede takes out what an entry corrects or strikes.
func (st *stepState) supersede(s *State, by []int32, e Entry) {
	k := slices.IndexFunc(st.all, func(i int32) bool { return s.entries[i].ID == e.Supersedes })
	if k < 0 {
		return
	}
	gone := st.all[k]
	by[gone] = int32(len(s.entries)) + 1
	st.live = slices.DeleteFunc(st.live, func(i int32) bool { return i == gone })
	place := s.entries[gone].holds()
	if st.first[place] != gone {
		return
	}
	delete(st.first, place)
	for _, i := range st.live {
		if s.entries[i].holds() == place {
			st.first[place] = i
			return
		}
	}
}

// add takes in entry i.
func (st *stepState) add(i int32, e Entry, superseded bool) {
	st.all = append(st.all, i)
	if !slices.Contains(remarks, e.Act) {
		st.changed = e.Seq
	}
	if e.Method != "" || (e.Act == ActStrike && strings.Contains(e.Item, ".")) {
		st.computed = append(st.computed, i)
	}
	if superseded || e.Act == ActStrike {
		return
	}
	st.live = append(st.live, i)
	if st.first == nil {
		st.first = map[holding]int32{}
	}
	if _, taken := st.first[e.holds()]; !taken {
		st.first[e.holds()] = i
	}
}

// remarks are the acts that change no figure.
var remarks = []Act{ActNote, ActAcknowledge, ActOverride, ActPhoto, ActAccept}

func (e Entry) holds() holding { return holding{e.Act, e.Item} }

// stepLog is a step with its entries at hand.
type stepLog struct {
	*stepState
	entries []Entry
}

func (s *State) of(step string) stepLog { return stepLog{&s.steps[s.plan.at[step]], s.entries} }

// has finds the live entry that holds a place.
func (a stepLog) has(act Act, item string) (Entry, bool) {
	i, ok := a.first[holding{act, item}]
	if !ok {
		return Entry{}, false
	}
	return a.entries[i], true
}

// each walks the entries of a list of theirs, in order, without copying them.
func (a stepLog) each(list []int32) iter.Seq[*Entry] {
	return func(yield func(*Entry) bool) {
		for _, i := range list {
			if !yield(&a.entries[i]) {
				return
			}
		}
	}
}

// supersededBy finds the entry that replaced entry i.
func (s *State) supersededBy(i int32) (Entry, bool) {
	if s.by[i] == 0 {
		return Entry{}, false
	}
	return s.entries[s.by[i]-1], true
}

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
func (s *State) blockedBy(step book.Step) []string {
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

// rank of a step for the place: 0 when it is done, then locked, open, held.
func (s *State) rank(step book.Step) int {
	needs := s.needs(step)
	switch {
	case s.isBlocked(step):
		return 1
	case needs == "":
		return 0
	case strings.HasPrefix(needs, heldMark):
		return 3
	}
	return 2
}

// isBlocked is blockedBy without the words.
func (s *State) isBlocked(step book.Step) bool {
	if _, ok := s.of(step.ID).has(ActOverride, ""); ok {
		return false
	}
	return slices.ContainsFunc(step.After, func(gate string) bool { return s.needs(s.plan.steps[s.plan.at[gate]]) != "" })
}

// Place is where the rebuild stands: at the first step that holds it, or else
// at the first that can be worked at.
func (s *State) Place() Place {
	place := Place{Steps: len(s.plan.steps)}
	rank := 0
	for i, step := range s.plan.steps {
		// Words are made only for the step that it will be.
		r := s.rank(step)
		if r == 0 {
			place.Done++
		}
		if r <= rank {
			continue
		}
		rank = r
		status, needs := s.Status(step.ID)
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
	st := s.of(step)
	if len(st.live) == 0 {
		return ""
	}
	return s.entries[st.live[len(st.live)-1]].Verdict
}

// dueAt is when a wait is over.
func dueAt(step book.Step, start Entry) time.Time {
	school := start.Said().Outcome
	for _, x := range step.Schools {
		if x.ID == school {
			return start.At.Add(time.Duration(float64(x.Wait.SI()) * float64(time.Second)))
		}
	}
	return start.At
}
