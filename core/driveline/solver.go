package driveline

import "math"

// What the hand feels at the shaft it turns.
const (
	light  = "light"
	drags  = "drags"
	stands = "stands"
)

// Drags in N·m, whatever the speed; judgement, far enough apart
// that only their order matters. The viscous one is common practice (50 to
// 60 N·m before it creeps).
const (
	freeDrag    = 0.2
	plateDrag   = 60.0
	viscousDrag = 55.0
	groundDrag  = 20_000.0
	dragsFrom   = 20.0
	handLimit   = 300.0
	engineLimit = 1e6
)

// solver holds the room for one motion; nothing is allocated while pairs of
// failures are tried.
type solver struct {
	speed []float64 // of every shaft, turned one at ±1

	parent  []int     // shafts that turn together, by union-find
	factor  []float64 // speed over the speed of the group's root
	group   []int     // root -> column
	n       int       // groups
	jammed  []int     // shafts that cannot turn
	fixed   []bool    // by column
	reached []bool
	known   []float64
	drag    []float64 // Σ R·|factor| by column

	rows      [][]float64 // constraints of differentials, last column the constant
	couplings []coupling
	active    []bool // one-way clutches that carry, by member
	basis     [][]float64
	pivots    []int
	free      []int

	terms     []term
	wished    []motion
	pull      []float64 // gradient of what is linear: the wishes
	slope     []float64
	x         []float64 // speeds of the free columns
	corner    []int     // the terms that are nought
	inverse   [][]float64
	crossings []crossing
}

// coupling is R·|fa·ω_a − fb·ω_b| between two groups.
type coupling struct {
	a, b   int
	fa, fb float64
	r      float64
}

func (k coupling) slip(speed []float64) float64 { return k.fa*speed[k.a] - k.fb*speed[k.b] }

func newSolver(shafts, members int) *solver {
	matrix := func(n, m int) [][]float64 {
		rows := make([][]float64, n)
		for i := range rows {
			rows[i] = make([]float64, m)
		}
		return rows
	}
	return &solver{
		speed: make([]float64, shafts), parent: make([]int, shafts), factor: make([]float64, shafts),
		group: make([]int, shafts),
		fixed: make([]bool, shafts), reached: make([]bool, shafts), known: make([]float64, shafts),
		drag: make([]float64, shafts),
		rows: matrix(members, shafts+1), basis: matrix(shafts, shafts+1), inverse: matrix(shafts, shafts),
		active: make([]bool, members),
		pull:   make([]float64, shafts), slope: make([]float64, shafts), x: make([]float64, shafts),
	}
}

// turn works out the motion under some failures and says what the hand feels.
// One-way clutches begin free; each that would be run past carries from then on.
func (m *model) turn(o *observation, failed []failure) string {
	s := m.work
	clear(s.active)
	for range len(m.members) + 1 {
		effort, ok := m.solve(o, failed)
		if !ok || math.Abs(effort) > o.limit {
			clear(s.speed)
			return stands
		}
		if !m.engage(failed) {
			if effort < dragsFrom {
				return light
			}
			return drags
		}
	}
	clear(s.speed)
	return stands
}

// engage lets the first one-way clutch carry that a runs past b.
func (m *model) engage(failed []failure) bool {
	for _, i := range m.split {
		x := &m.members[i]
		if x.kind != oneWay || m.work.active[i] {
			continue
		}
		if _, bad := modeOf(failed, i); !bad && m.work.speed[x.a] > m.work.speed[x.b]+1e-9 {
			m.work.active[i] = true
			return true
		}
	}
	return false
}

func modeOf(failed []failure, member int) (mode, bool) {
	for _, f := range failed {
		if f.member == member {
			return f.mode, true
		}
	}
	return 0, false
}

// solve fills speeds; the effort at the turned shaft, false when it is jammed.
func (m *model) solve(o *observation, failed []failure) (float64, bool) {
	s := m.work
	s.join(m, o, failed)
	s.gather(o)
	for _, i := range s.jammed {
		s.fixed[s.group[s.find(i)]] = true
	}
	at := s.group[s.find(o.turned)]
	if s.fixed[at] {
		return 0, false
	}
	s.reach(m, at)
	s.fixed[at], s.known[at] = true, o.speed/s.factorOf(o.turned)
	rows := s.constrain(m, o, failed)
	if !s.eliminate(rows) {
		return 0, false
	}
	s.least(o)
	effort := 0.0
	for i := range s.speed {
		s.speed[i] = s.factorOf(i) * s.known[s.group[s.find(i)]]
	}
	for c := range s.n {
		effort += s.drag[c] * math.Abs(s.known[c])
	}
	for _, k := range s.couplings {
		effort += k.r * math.Abs(k.slip(s.known))
	}
	return effort, true // the turned shaft has speed 1: power is effort
}

// carries tells whether a member joins a and b rigidly now.
func (m *model) carries(o *observation, failed []failure, i int) bool {
	x := &m.members[i]
	f, bad := modeOf(failed, i)
	switch x.kind {
	case shaft, joint, gear:
		return !bad
	case clutch:
		return (bad && f == stuck) || (!bad && o.in[i])
	case oneWay:
		return (bad && f == stuck) || (!bad && m.work.active[i])
	case viscous:
		return bad && f == stuck
	}
	return (bad && f == stuck) || (m.locked(o, failed, i) && !(bad && f == broken))
}

// join unites shafts that turn together, and so do all wheels on the ground:
// they roll with the vehicle. A loop whose ratios disagree, and a shaft held,
// jam their group.
func (s *solver) join(m *model, o *observation, failed []failure) {
	for i := range s.parent {
		s.parent[i], s.factor[i] = i, 1
	}
	s.jammed = append(s.jammed[:0], o.held...)
	for _, along := range o.with {
		s.unite(along, o.turned, 1)
	}
	for _, wheel := range o.wheels[min(1, len(o.wheels)):] {
		s.unite(wheel, o.wheels[0], 1)
	}
	for i := range m.members {
		x := &m.members[i]
		carries := m.carries(o, failed, i)
		if carries && !s.unite(x.a, x.b, x.ratio) {
			s.jammed = append(s.jammed, x.a)
		}
		// The lock's dog joins carrier and side a, whole gears or not.
		if x.kind == differential && (carries || m.locked(o, failed, i)) && !s.unite(x.c, x.a, 1) {
			s.jammed = append(s.jammed, x.a)
		}
	}
}

// locked tells whether a differential's lock is in and holds.
func (m *model) locked(o *observation, failed []failure, i int) bool {
	f, bad := modeOf(failed, i)
	return o.in[i] && (!bad || f != lockFails)
}

func (s *solver) find(i int) int {
	for s.parent[i] != i {
		i = s.parent[i]
	}
	return i
}

// factorOf is a shaft's speed over that of its group's root.
func (s *solver) factorOf(i int) float64 {
	f := 1.0
	for s.parent[i] != i {
		f *= s.factor[i]
		i = s.parent[i]
	}
	return f
}

// unite sets ω_a = ratio·ω_b; false when the two turn together otherwise.
func (s *solver) unite(a, b int, ratio float64) bool {
	fa, fb := s.factorOf(a), s.factorOf(b)
	ra, rb := s.find(a), s.find(b)
	if ra == rb {
		return math.Abs(fa-ratio*fb) < 1e-9*(math.Abs(fa)+1)
	}
	s.parent[ra], s.factor[ra] = rb, ratio*fb/fa
	return true
}

// gather gives every group a column and sums its drags.
func (s *solver) gather(o *observation) {
	s.n = 0
	for i := range s.parent {
		if s.parent[i] == i {
			s.group[i] = s.n
			s.fixed[s.n], s.known[s.n], s.drag[s.n] = false, 0, 0
			s.n++
		}
	}
	for i := range s.parent {
		r := freeDrag
		if o.ground[i] {
			r = groundDrag
		}
		f := s.factorOf(i)
		s.drag[s.group[s.find(i)]] += r * math.Abs(f)
	}
}

// reach fixes at nought every group that nothing joins to the one turned.
func (s *solver) reach(m *model, from int) {
	clear(s.reached[:s.n])
	s.reached[from] = true
	for grown := true; grown; {
		grown = false
		for _, i := range m.split {
			x := &m.members[i]
			if x.kind == oneWay {
				continue
			}
			grown = s.passOn(x) || grown
		}
	}
	for c := range s.n {
		if !s.reached[c] {
			s.fixed[c] = true // known stays nought
		}
	}
}

// passOn reaches all ends of a member when one is reached; true when that was new.
func (s *solver) passOn(x *member) bool {
	ends := [3]int{s.group[s.find(x.a)], s.group[s.find(x.b)], s.group[s.find(x.a)]}
	if x.kind == differential {
		ends[2] = s.group[s.find(x.c)]
	}
	some, all := false, true
	for _, end := range ends {
		some, all = some || s.reached[end], all && s.reached[end]
	}
	if some {
		s.reached[ends[0]], s.reached[ends[1]], s.reached[ends[2]] = true, true, true
	}
	return some && !all
}

// constrain writes the differentials' equations and the couplings.
func (s *solver) constrain(m *model, o *observation, failed []failure) int {
	rows := 0
	s.couplings = s.couplings[:0]
	for _, i := range m.split {
		x := &m.members[i]
		f, bad := modeOf(failed, i)
		switch {
		case x.kind == viscous && !bad:
			s.couple(x.a, x.b, viscousDrag)
		case x.kind == differential && !(bad && f == broken) && !m.carries(o, failed, i):
			row := s.rows[rows][:s.n+1]
			clear(row)
			s.add(row, x.c, -1)
			s.add(row, x.a, x.split)
			s.add(row, x.b, 1-x.split)
			rows++
			if x.limited && !(bad && f == worn) {
				s.couple(x.a, x.b, plateDrag)
			}
		}
	}
	return rows
}

func (s *solver) couple(a, b int, r float64) {
	s.couplings = append(s.couplings, coupling{s.group[s.find(a)], s.group[s.find(b)], s.factorOf(a), s.factorOf(b), r})
}

// add puts k·ω of a shaft into a row; fixed speeds go to the constant.
func (s *solver) add(row []float64, shaft int, k float64) {
	c := s.group[s.find(shaft)]
	k *= s.factorOf(shaft)
	if s.fixed[c] {
		row[s.n] += k * s.known[c]
		return
	}
	row[c] += k
}
