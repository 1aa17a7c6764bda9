package record

import (
	"iter"
	"maps"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/workshop/acts"
)

// State is where every step stands, folded from the entries. It never changes
// once it is made, so that many may read it; with adds an entry to a new one.
type State struct {
	Plan       *Plan
	Zone       *time.Location
	Units      quantity.System
	Currency   string
	order      *Rebuild // as it was opened
	Promised   string   // a day, as it was said last
	On         *grounds
	Entries    []Entry
	tail       *tail
	Superseded []int32 // for each entry: 1 + the index of the one that corrected or struck it, 0 if none
	steps      []stepState
	// needed remembers the answers of needs: gates ask for the same step often.
	needed []atomic.Pointer[Need]
}

// stepState collects what the rules ask about one step, by index of entry.
type stepState struct {
	All      []int32
	Live     []int32           // not superseded, strikes left out, in order
	first    map[holding]int32 // live, by place
	Changed  int               // sequence of the last entry that others may rest on
	Computed []int32           // all with a result, superseded too, and strikes of what results rest on
}

// holding is the place an entry takes at its step. One live entry holds a
// place; to change it, it is corrected.
type holding struct {
	act acts.Name
	at  Place
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
	entries = slices.Clone(entries) // what they say is kept beside them, once it is read
	s := &State{
		Plan: p, order: &Rebuild{}, Entries: entries[:len(entries):len(entries)], tail: &tail{used: len(entries)},
		Superseded: make([]int32, len(entries)), steps: make([]stepState, len(p.Steps)),
		needed: make([]atomic.Pointer[Need], len(p.Steps)),
	}
	ids, said := map[string]int32{}, make([]decoded, len(entries))
	for i, e := range entries {
		if e.said == nil {
			entries[i].said = &said[i]
		}
		if e.Supersedes != "" {
			ids[e.Supersedes] = int32(i) + 1
		}
	}
	for i, e := range entries {
		s.Superseded[i] = ids[e.ID]
		if step, ok := p.ByID[e.Step]; ok {
			s.steps[step.At].add(step, int32(i), e, s.Superseded[i] > 0)
		}
	}
	s.On = p.ground
	if slices.ContainsFunc(entries, s.isGround) {
		s.reground()
	}
	return s
}

// with is the state with one more entry: only its step is folded anew, and
// only the steps that lean on that one forget what they need.
func (s *State) with(e Entry) *State {
	next := &State{
		Plan:     s.Plan,
		Zone:     s.Zone,
		Units:    s.Units,
		Currency: s.Currency,
		order:    s.order,
		Promised: s.Promised,
		On:       s.On,
		steps:    slices.Clone(s.steps),
		needed:   make([]atomic.Pointer[Need], len(s.needed)),
	}
	next.Entries, next.tail = s.grown(e)
	next.Superseded = append(slices.Clone(s.Superseded), 0)
	step, ok := s.Plan.ByID[e.Step]
	if !ok {
		return next
	}
	st := s.steps[step.At].clone()
	if e.Supersedes != "" {
		st.supersede(s, next.Superseded, e)
	}
	st.add(step, int32(len(s.Entries)), e, false)
	next.steps[step.At] = st
	if s.isGround(e) || s.supersedesGround(e) {
		next.Promised = lastPromised(next)
		next.reground() // every step may need something else now
		return next
	}
	for i := range s.needed {
		if s.isAside(e) || !slices.Contains(s.Plan.leaning[step.At], i) {
			next.needed[i].Store(s.needed[i].Load())
		}
	}
	return next
}

// isGround: what the steps are worked on is another after it.
func (s *State) isGround(e Entry) bool {
	a := s.Plan.actOf(e)
	return a != nil && a.Ground
}

// isAside: nothing any step needs hangs on it.
func (s *State) isAside(e Entry) bool {
	a := s.Plan.actOf(e)
	return e.Supersedes == "" && a != nil && a.Aside
}

func (s *State) supersedesGround(e Entry) bool {
	return e.Supersedes != "" &&
		slices.ContainsFunc(s.Entries, func(x Entry) bool { return x.ID == e.Supersedes && s.isGround(x) })
}

// grown appends to the record's memory, or to a copy when another state has
// written there already.
func (s *State) grown(e Entry) ([]Entry, *tail) {
	s.tail.mu.Lock()
	defer s.tail.mu.Unlock()
	if s.tail.used == len(s.Entries) && cap(s.Entries) > len(s.Entries) {
		s.tail.used++
		return append(s.Entries, e), s.tail
	}
	room := make([]Entry, len(s.Entries), len(s.Entries)+max(16, len(s.Entries)/4))
	copy(room, s.Entries)
	return append(room, e), &tail{used: len(s.Entries) + 1}
}

func (st stepState) clone() stepState {
	st.All, st.Live, st.Computed = slices.Clone(st.All), slices.Clone(st.Live), slices.Clone(st.Computed)
	st.first = maps.Clone(st.first)
	return st
}

// supersede takes out what an entry corrects or strikes.
func (st *stepState) supersede(s *State, by []int32, e Entry) {
	k := slices.IndexFunc(st.All, func(i int32) bool { return s.Entries[i].ID == e.Supersedes })
	if k < 0 {
		return
	}
	gone := st.All[k]
	by[gone] = int32(len(s.Entries)) + 1
	st.Live = slices.DeleteFunc(st.Live, func(i int32) bool { return i == gone })
	place := s.Entries[gone].holds()
	if st.first[place] != gone {
		return
	}
	delete(st.first, place)
	for _, i := range st.Live {
		if s.Entries[i].holds() == place {
			st.first[place] = i
			return
		}
	}
}

// add takes in entry i.
func (st *stepState) add(step *Step, i int32, e Entry, superseded bool) {
	st.All = append(st.All, i)
	if a := step.act(e.Act); a == nil || !a.Remark {
		st.Changed = e.Seq
	}
	if e.Method != "" || (e.Is(acts.Strike{}) && e.Item.Trial > 0) {
		st.Computed = append(st.Computed, i)
	}
	if superseded || e.Is(acts.Strike{}) {
		return
	}
	st.Live = append(st.Live, i)
	if st.first == nil {
		st.first = map[holding]int32{}
	}
	if _, taken := st.first[e.holds()]; !taken {
		st.first[e.holds()] = i
	}
}

func (e Entry) holds() holding { return holding{e.Act, e.Item} }

// StepLog is a step with its entries at hand.
type StepLog struct {
	*stepState
	entries []Entry
}

// At is a step with its entries at hand.
func (s *State) At(step *Step) StepLog { return StepLog{&s.steps[step.At], s.Entries} }

// Has finds the live entry that holds a place.
func (a StepLog) Has(act acts.Act, at Place) (Entry, bool) {
	i, ok := a.first[holding{act.Name(), at}]
	if !ok {
		return Entry{}, false
	}
	return a.entries[i], true
}

// Each walks the entries of a list of theirs, in order, without copying them.
func (a StepLog) Each(list []int32) iter.Seq[*Entry] {
	return func(yield func(*Entry) bool) {
		for _, i := range list {
			if !yield(&a.entries[i]) {
				return
			}
		}
	}
}

// findSuperseding finds the entry that replaced entry i.
func (s *State) findSuperseding(i int32) (Entry, bool) {
	if s.Superseded[i] == 0 {
		return Entry{}, false
	}
	return s.Entries[s.Superseded[i]-1], true
}

// Status of a step with what it still needs.
func (s *State) Status(step *Step) (Status, Need) {
	if blocked := s.listBlocking(step); len(blocked) > 0 {
		return Locked, Need{What: Steps, Names: blocked}
	}
	needs := Needs(s, step)
	switch {
	case needs.IsMet():
		return Done, needs
	case needs.Holds():
		return Held, needs
	}
	return Open, needs
}

// listBlocking lists the gating steps that are not done, unless the gate was
// overridden.
func (s *State) listBlocking(step *Step) []string {
	if _, ok := s.At(step).Has(acts.Override{}, Place{}); ok {
		return nil
	}
	var blocked []string
	for _, gate := range step.After {
		if before, _ := s.Plan.Step(gate); !Needs(s, before).IsMet() {
			blocked = append(blocked, gate)
		}
	}
	return blocked
}

// IsBlocked is blockedBy without the list.
func (s *State) IsBlocked(step *Step) bool {
	if _, ok := s.At(step).Has(acts.Override{}, Place{}); ok {
		return false
	}
	return slices.ContainsFunc(step.After, func(gate string) bool {
		before, _ := s.Plan.Step(gate)
		return !Needs(s, before).IsMet()
	})
}

// rank tells how much a step keeps the rebuild: 0 when it is done, then
// locked, open, held.
func (s *State) rank(step *Step) int {
	switch needs := Needs(s, step); {
	case s.IsBlocked(step):
		return 1
	case needs.IsMet():
		return 0
	case needs.Holds():
		return 3
	}
	return 2
}

// Standing is where the rebuild stands: at the first step that holds it, or
// else at the first that can be worked at.
func (s *State) Standing() Standing {
	now := Standing{Steps: len(s.Plan.Steps), Promised: s.Promised}
	rank, at := 0, (*Step)(nil)
	for _, step := range s.Plan.Steps {
		r := s.rank(step)
		if r == 0 {
			now.Done++
		}
		if r > rank {
			rank, at = r, step
		}
	}
	if at == nil {
		last := s.Plan.Steps[len(s.Plan.Steps)-1]
		now.Station, now.Step, now.Closed = last.Station, last.ID, true
		return now
	}
	now.HoursLeft = hoursLeft(s, now)
	status, needs := s.Status(at)
	now.Station, now.Step, now.WaitsFor = at.Station, at.ID, at.Title+": "+NeedWords(s, at, needs)
	now.Held = status == Held
	if v := s.LastVerdict(at); status == Open && (v == metrology.Out || v == metrology.Undecided) {
		now.Verdict = v
	}
	return now
}

// LastVerdict is that of the last entry that stands at a step.
func (s *State) LastVerdict(step *Step) metrology.Verdict {
	st := s.At(step)
	if len(st.Live) == 0 {
		return ""
	}
	return s.Entries[st.Live[len(st.Live)-1]].Verdict
}
