package driveline

import (
	"cmp"
	"math"
	"slices"
)

// term is r·|row·x + constant| of the free speeds x; moved a hair by jitter so
// that no two corners fall together.
type term struct {
	row              []float64
	constant, jitter float64
	r                float64
	inBasis          bool
	off              float64 // what stands between the bars now
}

// crossing is a corner met on the way along an edge.
type crossing struct {
	term int
	at   float64
	rate float64
}

// wishWeight is what disagreeing with what was seen costs beside true drags:
// little enough to decide only between motions of the same effort.
const wishWeight = 1e-5

// least finds speeds of least Σ R·|ω|, exactly, and fills all that follow.
// Where several motions cost the same, any of them may be seen: the one that
// agrees with what was seen is taken, if there is one.
func (s *solver) least(o *observation) {
	s.expand()
	s.wished = append(s.wished[:0], o.moved...)
	s.descend(o)
	for i, seen := range o.moved {
		if seen.way != "moves" {
			continue
		}
		for _, way := range [...]string{"same", "opposite"} {
			if wayOf(s.speedOf(seen.shaft)*o.speed) != "still" {
				break
			}
			s.wished[i].way = way
			s.descend(o)
		}
	}
}

func (s *solver) speedOf(shaft int) float64 {
	return s.factorOf(shaft) * s.known[s.group[s.find(shaft)]]
}

// descend walks from corner to corner of the sum, each time along the edge that
// falls most, until none falls: the weighted least absolute values of Barrodale
// and Roberts (1973). A corner is where as many terms as there are free speeds
// are nought; they are the basis, inverse its matrix turned round.
func (s *solver) descend(o *observation) {
	f := len(s.free)
	s.pose(o)
	s.start()
	for range 100 * (f + 1) {
		edge, way := s.steepest()
		if edge < 0 {
			break
		}
		s.follow(edge, way)
	}
	s.settle()
}

// pose writes the terms: every shaft's drag, every coupling, and the wishes.
func (s *solver) pose(o *observation) {
	f := len(s.free)
	s.terms, s.pull = s.terms[:0], s.pull[:f]
	clear(s.pull)
	for c := range s.n {
		s.term(s.basis[c], nil, 1, 0, 0, s.drag[c])
	}
	for _, k := range s.couplings {
		s.term(s.basis[k.a], s.basis[k.b], k.fa, k.fb, 0, k.r)
	}
	for _, w := range s.wished {
		s.wish(w, o.speed)
	}
}

// wish adds what a claim costs where the motion does not bear it out:
// max(0, t − ω) for one that moves, max(0, |ω| − t) for one that stands.
func (s *solver) wish(w motion, along float64) {
	row, k := s.basis[s.group[s.find(w.shaft)]], s.factorOf(w.shaft)*along
	switch w.way {
	case "opposite":
		k = -k
		fallthrough
	case "same":
		s.term(row, nil, k, 0, -1.05*creep, wishWeight/2)
		for i := range s.pull {
			s.pull[i] -= wishWeight / 2 * k * row[i]
		}
	case "still":
		s.term(row, nil, k, 0, -0.95*creep, wishWeight/2)
		s.term(row, nil, k, 0, 0.95*creep, wishWeight/2)
	}
}

// term adds r·|fa·a − fb·b + shift|, unless nothing free moves it.
func (s *solver) term(a, b []float64, fa, fb, shift, r float64) {
	f, n := len(s.free), len(s.terms)
	if n == cap(s.terms) {
		s.terms = append(s.terms, term{row: make([]float64, len(s.basis)+1)})
	} else if s.terms = s.terms[:n+1]; s.terms[n].row == nil {
		s.terms[n].row = make([]float64, len(s.basis)+1)
	}
	t, moves := &s.terms[n], false
	for i := range f + 1 {
		t.row[i] = fa * a[i]
		if b != nil {
			t.row[i] -= fb * b[i]
		}
		if math.Abs(t.row[i]) < 1e-12 {
			t.row[i] = 0
		}
		moves = moves || i < f && t.row[i] != 0
	}
	if !moves {
		s.terms = s.terms[:n]
		return
	}
	_, part := math.Modf(float64(n+1) * math.Phi)
	t.constant, t.jitter, t.r, t.inBasis = t.row[f]+shift, 1e-8*(1+part), r, false
}

// start stands at the corner where the free speeds themselves are nought.
func (s *solver) start() {
	f := len(s.free)
	s.corner = s.corner[:0]
	for i := range f {
		clear(s.inverse[i][:f])
		s.inverse[i][i] = 1
		for j := range s.terms {
			t := &s.terms[j]
			if !t.inBasis && t.row[i] == 1 && onlyAt(t.row[:f], i) {
				t.inBasis = true
				s.corner = append(s.corner, j)
				break
			}
		}
	}
	s.stand()
}

func onlyAt(row []float64, at int) bool {
	for i, v := range row {
		if i != at && v != 0 {
			return false
		}
	}
	return true
}

// stand works out the free speeds at the corner, and how far off every term is.
func (s *solver) stand() {
	f := len(s.free)
	for i := range f {
		s.x[i] = 0
		for k, j := range s.corner {
			s.x[i] -= s.inverse[i][k] * (s.terms[j].constant + s.terms[j].jitter)
		}
	}
	for j := range s.terms {
		t := &s.terms[j]
		t.off = 0
		if !t.inBasis {
			t.off = t.constant + t.jitter + dot(t.row[:f], s.x)
		}
	}
}

func dot(row, x []float64) float64 {
	sum := 0.0
	for i, v := range row {
		sum += v * x[i]
	}
	return sum
}

// steepest is the edge along which the sum falls fastest and which way along
// it; −1 where none falls.
func (s *solver) steepest() (edge int, way float64) {
	f := len(s.free)
	g := s.slope[:f]
	copy(g, s.pull)
	for j := range s.terms {
		t := &s.terms[j]
		if t.inBasis {
			continue
		}
		r := math.Copysign(t.r, t.off)
		for i := range f {
			g[i] += r * t.row[i]
		}
	}
	edge, most := -1, 0.0
	for k, j := range s.corner {
		along, size := 0.0, 0.0
		for i := range f {
			part := g[i] * s.inverse[i][k]
			along, size = along+part, size+math.Abs(part)
		}
		if fall := math.Abs(along) - s.terms[j].r; fall > 1e-13*size+1e-12 && fall > most {
			edge, most, way = k, fall, -math.Copysign(1, along)
		}
	}
	return edge, way
}

// follow goes along an edge until the sum rises again and changes the term left
// for the one met there.
func (s *solver) follow(edge int, way float64) {
	f := len(s.free)
	left := &s.terms[s.corner[edge]]
	s.crossings = s.crossings[:0]
	fall := s.along(edge, way) + left.r
	for j := range s.terms {
		t := &s.terms[j]
		if t.inBasis {
			continue
		}
		rate := 0.0
		for i := range f {
			rate += t.row[i] * s.inverse[i][edge]
		}
		if at := -t.off / (rate * way); math.Abs(rate) > 1e-11 && at > 0 {
			s.crossings = append(s.crossings, crossing{j, at, rate})
		}
	}
	slices.SortFunc(s.crossings, func(a, b crossing) int { return cmp.Compare(a.at, b.at) })
	for _, c := range s.crossings {
		if fall += 2 * s.terms[c.term].r * math.Abs(c.rate); fall < 0 {
			continue
		}
		left.inBasis, s.terms[c.term].inBasis = false, true
		s.exchange(edge, s.terms[c.term].row, c.rate)
		s.corner[edge] = c.term
		s.stand()
		return
	}
}

// along is how the terms outside the basis change along an edge.
func (s *solver) along(edge int, way float64) float64 {
	sum := 0.0
	for i := range s.free {
		sum += s.slope[i] * s.inverse[i][edge]
	}
	return sum * way
}

// exchange brings a row into the basis in the place of another.
func (s *solver) exchange(edge int, row []float64, rate float64) {
	f := len(s.free)
	for k := range f {
		if k == edge {
			continue
		}
		times := 0.0
		for i := range f {
			times += row[i] * s.inverse[i][k]
		}
		if times /= rate; times != 0 {
			for i := range f {
				s.inverse[i][k] -= times * s.inverse[i][edge]
			}
		}
	}
	for i := range f {
		s.inverse[i][edge] /= rate
	}
}

// settle takes the jitter out and fills all speeds.
func (s *solver) settle() {
	f := len(s.free)
	for i := range f {
		s.x[i] = 0
		for k, j := range s.corner {
			s.x[i] -= s.inverse[i][k] * s.terms[j].constant
		}
	}
	for c := range s.n {
		s.known[c] = s.basis[c][f] + dot(s.basis[c][:f], s.x)
	}
}
