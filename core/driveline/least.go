package driveline

import "math"

// eliminate brings the rows to a form where each pivot follows from the free
// columns; false when the equations contradict the speeds that are fixed.
func (s *solver) eliminate(rows int) bool {
	s.pivots = s.pivots[:0]
	for r := range rows {
		row := s.rows[r][:s.n+1]
		for p, c := range s.pivots {
			subtract(row, s.rows[p][:s.n+1], row[c])
		}
		pivot, most := -1, 1e-9
		for c := range s.n {
			if math.Abs(row[c]) > most {
				pivot, most = c, math.Abs(row[c])
			}
		}
		if pivot < 0 {
			if math.Abs(row[s.n]) > 1e-9 {
				return false
			}
			clear(row)
			s.pivots = append(s.pivots, s.n) // an empty row subtracts nothing
			continue
		}
		scale := row[pivot]
		for c := range row {
			row[c] /= scale
		}
		for p := range s.pivots {
			subtract(s.rows[p][:s.n+1], row, s.rows[p][pivot])
		}
		s.pivots = append(s.pivots, pivot)
	}
	return true
}

func subtract(row, other []float64, times float64) {
	if times == 0 {
		return
	}
	for i := range row {
		row[i] -= times * other[i]
	}
}

func (k coupling) slip(speed []float64) float64 { return k.fa*speed[k.a] - k.fb*speed[k.b] }

// least finds the free speeds of least Σ R·|ω| and fills all that follow. The
// corner of |ω| is rounded to √(ω² + δ²) and sharpened step by step; each step
// is least squares, weighted anew with the speeds before. Rounded, the answer is
// unique: where two ways to move cost the same, the motion lies between them.
func (s *solver) least() {
	s.expand()
	f := len(s.free)
	s.square(f, 1, true)
	for _, corner := range corners {
		for range rounds {
			if s.square(f, corner, false) < corner/100 {
				break
			}
		}
	}
}

// corners are the roundings δ, rounds the most steps at each.
var corners = [...]float64{0.3, 0.1, 0.03, 0.01, 0.003, 0.001, 0.0003}

const rounds = 20

// square takes one step of weighted least squares; the largest change of speed.
// The first step knows no speeds yet and weighs all alike.
func (s *solver) square(f int, corner float64, first bool) float64 {
	for i := range f {
		clear(s.h[i][:f+1])
	}
	weight := func(speed float64) float64 {
		if first {
			return 1
		}
		return math.Sqrt(speed*speed + corner*corner)
	}
	for c := range s.n {
		s.weigh(s.basis[c], nil, 1, 0, s.drag[c]/weight(s.known[c]))
	}
	for _, k := range s.couplings {
		s.weigh(s.basis[k.a], s.basis[k.b], k.fa, k.fb, k.r/weight(k.slip(s.known)))
	}
	s.gauss(f)
	return s.fill(f)
}

// fill gives every column its speed from the free ones; the largest change.
func (s *solver) fill(f int) float64 {
	change := 0.0
	for c := range s.n {
		v := s.basis[c][f]
		for i := range f {
			v += s.basis[c][i] * s.h[i][f]
		}
		change = max(change, math.Abs(v-s.known[c]))
		s.known[c] = v
	}
	return change
}

// expand writes every column as a combination of the free ones and a constant.
func (s *solver) expand() {
	s.free = s.free[:0]
	for c := range s.n {
		if !s.fixed[c] && !contains(s.pivots, c) {
			s.free = append(s.free, c)
		}
	}
	f := len(s.free)
	for c := range s.n {
		clear(s.basis[c][:f+1])
		if s.fixed[c] {
			s.basis[c][f] = s.known[c]
		}
	}
	for i, c := range s.free {
		s.basis[c][i] = 1
	}
	for p, c := range s.pivots {
		if c == s.n {
			continue
		}
		for i, x := range s.free {
			s.basis[c][i] = -s.rows[p][x]
		}
		s.basis[c][f] = -s.rows[p][s.n]
	}
}

func contains(list []int, x int) bool {
	for _, y := range list {
		if x == y {
			return true
		}
	}
	return false
}

// weigh adds r·(fa·a − fb·b)² to the normal equations.
func (s *solver) weigh(a, b []float64, fa, fb, r float64) {
	f := len(s.free)
	at := func(i int) float64 {
		if b == nil {
			return fa * a[i]
		}
		return fa*a[i] - fb*b[i]
	}
	constant := at(f)
	for i := range f {
		x := at(i)
		if x == 0 {
			continue
		}
		for j := range f {
			s.h[i][j] += r * x * at(j)
		}
		s.h[i][f] -= r * x * constant
	}
}

// gauss solves the normal equations in place; every shaft has some drag, so
// they are positive definite and need no pivoting.
func (s *solver) gauss(n int) {
	for k := range n {
		d := s.h[k][k]
		for j := k; j <= n; j++ {
			s.h[k][j] /= d
		}
		for i := range n {
			if i != k && s.h[i][k] != 0 {
				t := s.h[i][k]
				for j := k; j <= n; j++ {
					s.h[i][j] -= t * s.h[k][j]
				}
			}
		}
	}
}
