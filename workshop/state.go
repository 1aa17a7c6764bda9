package workshop

import (
	"iter"
	"maps"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// State is where every step stands, folded from the entries. It never changes
// once it is made, so that many may read it; with adds an entry to a new one.
type State struct {
	plan     *Plan
	zone     *time.Location
	units    quantity.System
	order    *Rebuild // as it was opened
	promised string   // a day, as it was said last
	on       *grounds
	entries  []Entry
	tail     *tail
	by       []int32 // for each entry: 1 + the index of the one that corrected or struck it, 0 if none
	steps    []stepState
	// needed remembers the answers of needs: gates ask for the same step often.
	needed []atomic.Pointer[Need]
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
	act Act
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
	s := &State{
		plan: p, order: &Rebuild{}, entries: entries[:len(entries):len(entries)], tail: &tail{used: len(entries)},
		by: make([]int32, len(entries)), steps: make([]stepState, len(p.Steps)), needed: make([]atomic.Pointer[Need], len(p.Steps)),
	}
	ids := map[string]int32{}
	for i, e := range entries {
		if e.Supersedes != "" {
			ids[e.Supersedes] = int32(i) + 1
		}
	}
	for i, e := range entries {
		s.by[i] = ids[e.ID]
		if step, ok := p.named[e.Step]; ok {
			s.steps[step.at].add(int32(i), e, s.by[i] > 0)
		}
	}
	s.on = p.ground
	if slices.ContainsFunc(entries, Entry.saysSheet) {
		s.reground()
	}
	return s
}

// with is the state with one more entry: only its step is folded anew, and
// only the steps that lean on that one forget what they need.
func (s *State) with(e Entry) *State {
	next := &State{
		plan: s.plan, zone: s.zone, units: s.units, order: s.order, promised: s.promised, on: s.on, steps: slices.Clone(s.steps),
		needed: make([]atomic.Pointer[Need], len(s.needed)),
	}
	next.entries, next.tail = s.grown(e)
	next.by = append(slices.Clone(s.by), 0)
	step, ok := s.plan.named[e.Step]
	if !ok {
		return next
	}
	st := s.steps[step.at].clone()
	if e.Supersedes != "" {
		st.supersede(s, next.by, e)
	}
	st.add(int32(len(s.entries)), e, false)
	next.steps[step.at] = st
	if e.saysSheet() || s.supersedesFigure(e) {
		next.promised = next.lastPromised()
		next.reground() // every step may need something else now
		return next
	}
	for i := range s.needed {
		if e.isAside() || !slices.Contains(s.plan.leaning[step.at], i) {
			next.needed[i].Store(s.needed[i].Load())
		}
	}
	return next
}

// saysSheet: what the steps are worked on is another after it.
func (e Entry) saysSheet() bool {
	return e.Act == ActFigure || e.Act == ActSheet || e.Act == ActWays || e.Act == ActPromised
}

// isAside: a remark or a time; nothing any step needs hangs on it.
func (e Entry) isAside() bool {
	return e.Supersedes == "" && (e.Act == ActNote || e.Act == ActTime)
}

func (s *State) supersedesFigure(e Entry) bool {
	return e.Supersedes != "" && slices.ContainsFunc(s.entries, func(x Entry) bool { return x.ID == e.Supersedes && x.saysSheet() })
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
	if e.Method != "" || (e.Act == ActStrike && e.Item.Trial > 0) {
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
var remarks = []Act{ActNote, ActFound, ActTime, ActPromised, ActAgreed, ActAcknowledge, ActOverride, ActPhoto, ActAccept}

func (e Entry) holds() holding { return holding{e.Act, e.Item} }

// stepLog is a step with its entries at hand.
type stepLog struct {
	*stepState
	entries []Entry
}

func (s *State) of(step *Step) stepLog { return stepLog{&s.steps[step.at], s.entries} }

// has finds the live entry that holds a place.
func (a stepLog) has(act Act, at Place) (Entry, bool) {
	i, ok := a.first[holding{act, at}]
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

// Status of a step with what it still needs.
func (s *State) Status(step *Step) (Status, Need) {
	if blocked := s.blockedBy(step); len(blocked) > 0 {
		return Locked, Need{What: Steps, Names: blocked}
	}
	needs := s.needs(step)
	switch {
	case needs.IsMet():
		return Done, needs
	case needs.Holds():
		return Held, needs
	}
	return Open, needs
}

// blockedBy lists the gating steps that are not done, unless the gate was
// overridden.
func (s *State) blockedBy(step *Step) []string {
	if _, ok := s.of(step).has(ActOverride, Place{}); ok {
		return nil
	}
	var blocked []string
	for _, gate := range step.After {
		if before, _ := s.plan.Step(gate); !s.needs(before).IsMet() {
			blocked = append(blocked, gate)
		}
	}
	return blocked
}

// isBlocked is blockedBy without the list.
func (s *State) isBlocked(step *Step) bool {
	if _, ok := s.of(step).has(ActOverride, Place{}); ok {
		return false
	}
	return slices.ContainsFunc(step.After, func(gate string) bool {
		before, _ := s.plan.Step(gate)
		return !s.needs(before).IsMet()
	})
}

// rank tells how much a step keeps the rebuild: 0 when it is done, then
// locked, open, held.
func (s *State) rank(step *Step) int {
	switch needs := s.needs(step); {
	case s.isBlocked(step):
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
	now := Standing{Steps: len(s.plan.Steps), Promised: s.promised}
	rank, at := 0, (*Step)(nil)
	for _, step := range s.plan.Steps {
		r := s.rank(step)
		if r == 0 {
			now.Done++
		}
		if r > rank {
			rank, at = r, step
		}
	}
	if at == nil {
		last := s.plan.Steps[len(s.plan.Steps)-1]
		now.Station, now.Step, now.Closed = last.Station, last.ID, true
		return now
	}
	now.HoursLeft = s.hoursLeft(now)
	status, needs := s.Status(at)
	now.Station, now.Step, now.WaitsFor = at.Station, at.ID, at.Title+": "+s.needWords(at, needs)
	now.Held = status == Held
	if v := s.lastVerdict(at); status == Open && (v == metrology.Out || v == metrology.Undecided) {
		now.Verdict = v
	}
	return now
}

func (s *State) lastVerdict(step *Step) metrology.Verdict {
	st := s.of(step)
	if len(st.live) == 0 {
		return ""
	}
	return s.entries[st.live[len(st.live)-1]].Verdict
}
