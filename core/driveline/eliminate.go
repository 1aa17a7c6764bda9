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
		pivot := largest(row[:s.n])
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

// largest is the place of the largest figure of a row; -1 when all are nought.
func largest(row []float64) int {
	at, most := -1, 1e-9
	for c, v := range row {
		if math.Abs(v) > most {
			at, most = c, math.Abs(v)
		}
	}
	return at
}

func subtract(row, other []float64, times float64) {
	if times == 0 {
		return
	}
	for i := range row {
		row[i] -= times * other[i]
	}
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
