package runout

import (
	"math"
	"slices"

	"handwerk/core/solve"
)

// candidate is a setting of both dowels: sizes and degrees clockwise from 12.
type candidate struct {
	school School
	s1, s2 float64
	a1, a2 float64
	after  vec
	twist  float64
	bind   float64
}

// move is the least-squares rigid motion of the housing for dowel offsets
// d1, d2 at p1, p2: twist ω = (p1-p2)×(d1-d2)/|p1-p2|², change of hole spacing
// (d1-d2)·(p1-p2)/|p1-p2|, and the bore's centre moves by mean(d) - ω×mean(p).
// Source: plane rigid-body kinematics, small angles.
func (h housing) move(d1, d2 vec) (t vec, twist, bind float64) {
	p, d := h.p1.minus(h.p2), d1.minus(d2)
	length2 := p.dot(p)
	twist = p.cross(d) / length2
	bind = d.dot(p) / math.Sqrt(length2)
	mx, my := (h.p1.x+h.p2.x)/2, (h.p1.y+h.p2.y)/2
	return vec{(d1.x+d2.x)/2 + twist*my, (d1.y+d2.y)/2 - twist*mx}, twist, bind
}

func (h housing) evaluate(c candidate) candidate {
	t, twist, bind := h.move(toward(c.s1, c.a1), toward(c.s2, c.a2))
	c.after, c.twist, c.bind = vec{h.x + t.x, h.y + t.y}, twist, bind
	return c
}

// better orders settings by what they leave, where less than 3 nm is
// nothing; then by strain on the holes, then by the smaller dowels, then by
// their places, so that one question has one answer.
func better(a, b candidate) bool {
	const nothing, grain = 3e-9, 1e-10
	left := func(c candidate) float64 {
		if m := math.Hypot(c.after.x, c.after.y); m > nothing {
			return math.Round(m / grain)
		}
		return 0
	}
	for _, pair := range [][2]float64{
		{left(a), left(b)}, {math.Round(math.Abs(a.bind) * 1e7), math.Round(math.Abs(b.bind) * 1e7)},
		{a.s1 + a.s2, b.s1 + b.s2}, {a.s1, b.s1}, {a.a1, b.a1}, {a.a2, b.a2},
	} {
		if pair[0] != pair[1] {
			return pair[0] < pair[1]
		}
	}
	return false
}

// search goes over the whole grid of an approach, refines the best of each pair
// of sizes, and lists those that differ. What the grid itself found stays in
// the choice, so that refining never makes it worse; alike settings are also
// settings of each its own way.
func (h housing) search(school School) []candidate {
	pool := h.grid(school)
	if school == Each {
		for _, c := range h.grid(Alike) {
			c.school = Each
			pool = append(pool, c)
		}
	}
	for _, c := range pool[:len(pool):len(pool)] {
		pool = append(pool, h.refine(c))
	}
	for i, c := range pool {
		pool[i] = h.evaluate(c)
	}
	slices.SortStableFunc(pool, func(a, b candidate) int {
		switch {
		case better(a, b):
			return -1
		case better(b, a):
			return 1
		}
		return 0
	})
	var list []candidate
	for _, c := range pool {
		if len(list) < plansPerSchool && math.Abs(c.bind) <= h.bind+1e-9 && !slices.ContainsFunc(list, c.same) {
			list = append(list, c)
		}
	}
	return list
}

// same tells settings that nobody could tell apart at the bench: equal sizes,
// turned within 0.1 h. A plain dowel has no place to be turned to.
func (c candidate) same(d candidate) bool {
	const apart = 3.0
	near := func(size, a, b float64) bool {
		return size == 0 || math.Abs(math.Remainder(a-b, 360)) <= apart
	}
	return c.school == d.school && c.s1 == d.s1 && c.s2 == d.s2 && near(c.s1, c.a1, d.a1) && near(c.s2, c.a2, d.a2)
}

// turned is a dowel of the list at a place of the grid, with its share of what
// happens: the bore moves by the sum of both, the holes bind by the difference.
type turned struct {
	size, deg float64
	first     vec // the bore's move as the first dowel, and as the second
	second    vec
	along     float64 // on the line between the dowels
}

// perPair is how many settings of one pair of sizes are refined.
const perPair = 4

// grid gives the best settings of each pair of sizes on the grid.
func (h housing) grid(school School) []candidate {
	bySize := make([][]turned, len(h.sizes))
	for i, size := range h.sizes {
		for deg := 0.0; deg < 360 && (deg == 0 || size > 0); deg += gridDeg {
			bySize[i] = append(bySize[i], h.turn(size, deg))
		}
	}
	var pool []candidate
	for i := range h.sizes {
		for j := range h.sizes {
			if school == Alike && i != j {
				continue
			}
			pool = append(pool, h.pair(school, bySize[i], bySize[j])...)
		}
	}
	return pool
}

// pair gives the best settings of two dowels of given sizes.
func (h housing) pair(school School, ones, twos []turned) []candidate {
	few := solve.BestFew(perPair, better)
	if school == Alike {
		for a, one := range ones {
			few.Offer(h.join(Alike, one, twos[a]))
		}
		return few.Best()
	}
	for _, one := range ones {
		for _, two := range twos {
			if math.Abs(one.along-two.along) <= h.bind {
				few.Offer(h.join(Each, one, two))
			}
		}
	}
	return few.Best()
}

func (h housing) turn(size, deg float64) turned {
	d := toward(size, deg)
	first, _, along := h.move(d, vec{})
	second, _, _ := h.move(vec{}, d)
	return turned{size, deg, first, second, along}
}

func (h housing) join(school School, one, two turned) candidate {
	return candidate{
		school: school, s1: one.size, s2: two.size, a1: one.deg, a2: two.deg, bind: one.along - two.along,
		after: vec{h.x + one.first.x + two.second.x, h.y + one.first.y + two.second.y},
	}
}

// turns are the ways in which refine tries to go on.
var turns = [][2]float64{{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}, {1, -1}, {-1, 1}}

// refine turns the dowels by ever smaller steps while that leaves less.
func (h housing) refine(c candidate) candidate {
	c = h.evaluate(c)
	for step := gridDeg / 2; step >= 0.0001; step /= 2 {
		for range 12 {
			next := h.nextTo(c, step)
			if next == c {
				break
			}
			c = next
		}
	}
	return c
}

// nextTo is the best of the settings one step away, or the setting itself.
func (h housing) nextTo(c candidate, step float64) candidate {
	next := c
	for _, turn := range turns {
		try := c
		try.a1, try.a2 = c.a1+step*turn[0], c.a2+step*turn[1]
		if c.school == Alike {
			try.a2 = try.a1
		}
		try = h.evaluate(try)
		if math.Abs(try.bind) <= h.bind && better(try, next) {
			next = try
		}
	}
	return next
}
