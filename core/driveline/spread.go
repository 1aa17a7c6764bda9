package driveline

import (
	"cmp"
	"math"
	"slices"
)

// measure says of each part of the tree where it leads and what it takes.
func (l *layout) measure(i int) {
	v := &l.v[i]
	v.front, v.left, v.deep = 0, 0, 0
	if len(v.kids) == 0 {
		v.front, v.left = end(v.name), side(v.name)
	}
	for _, k := range v.kids {
		l.measure(k)
		v.front += l.v[k].front
		v.left += l.v[k].left
		v.deep = max(v.deep, l.v[k].deep+l.gap(i, k))
	}
	// What only closes a ring comes last, the part for the left side first, the
	// rest as they are written.
	slices.SortStableFunc(v.kids, func(a, b int) int {
		return cmp.Or(cmp.Compare(l.dangles(a), l.dangles(b)), cmp.Compare(l.v[b].left, l.v[a].left))
	})
}

// dangles: 1 for a member that leads to nothing the tree did not have.
func (l *layout) dangles(i int) int {
	if l.v[i].member >= 0 && len(l.v[i].kids) == 0 {
		return 1
	}
	return 0
}

// chain: nothing parts on the way to its one end.
func (l *layout) chain(i int) bool {
	for len(l.v[i].kids) == 1 {
		i = l.v[i].kids[0]
	}
	return len(l.v[i].kids) == 0
}

// spread gives every vertex its place. The first parting is the middle.
func (l *layout) spread(root int) {
	var stem []int
	hub := root
	for len(l.v[hub].kids) == 1 {
		stem = append(stem, hub)
		hub = l.v[hub].kids[0]
	}
	on := slices.DeleteFunc(slices.Clone(l.v[hub].kids), l.chain)
	if len(on) == 0 || len(l.v[hub].kids) == 1 {
		dir := 1.0
		if l.v[root].front > 0 {
			dir = -1
		}
		l.branch(root, 0, 0, dir)
		return
	}
	l.v[hub].x, l.v[hub].y = 0, 0
	y := 0.0
	for k := len(stem) - 1; k >= 0; k-- {
		next := hub
		if k+1 < len(stem) {
			next = stem[k+1]
		}
		y -= l.gap(stem[k], next)
		l.v[stem[k]].x, l.v[stem[k]].y, l.v[stem[k]].across = 0, y, true
	}
	forward, back := l.parted(l.v[hub].kids)
	l.fan(hub, forward, -1)
	l.fan(hub, back, 1)
}

// parted tells what goes to the front from what goes to the rear; where names
// do not say, half goes each way.
func (l *layout) parted(kids []int) (forward, back []int) {
	var open []int
	for _, k := range kids {
		switch f := l.v[k].front; {
		case f > 0:
			forward = append(forward, k)
		case f < 0:
			back = append(back, k)
		default:
			open = append(open, k)
		}
	}
	for _, k := range open {
		if len(forward) < len(back) {
			forward = append(forward, k)
		} else {
			back = append(back, k)
		}
	}
	return forward, back
}

// branch draws a part of the tree from its root on, away from the middle.
func (l *layout) branch(i int, x, y, dir float64) {
	l.v[i].x, l.v[i].y = x, y
	kids := l.v[i].kids
	ends := slices.DeleteFunc(slices.Clone(kids), func(k int) bool { return !l.chain(k) })
	if len(ends) < 2 || len(kids) > 3 {
		l.fan(i, kids, dir)
		return
	}
	// The two sides of an axle go across: the left below, the right above.
	l.across(i, ends[0], 1)
	l.across(i, ends[1], -1)
	l.v[i].down, l.v[i].up = l.v[ends[0]].deep+l.gap(i, ends[0])+0.5, l.v[ends[1]].deep+l.gap(i, ends[1])+0.5
	rest := slices.DeleteFunc(slices.Clone(kids), func(k int) bool { return k == ends[0] || k == ends[1] })
	if len(rest) == 1 { // goes on, on the same line
		l.branch(rest[0], x+dir*l.gap(i, rest[0]), y, dir)
		l.v[i].down, l.v[i].up = max(l.v[i].down, l.v[rest[0]].down), max(l.v[i].up, l.v[rest[0]].up)
	}
}

func (l *layout) across(from, i int, dir float64) {
	y := l.v[from].y
	for at := i; ; at = l.v[at].kids[0] {
		y += dir * l.gap(from, at)
		l.v[at].x, l.v[at].y, l.v[at].across = l.v[from].x, y, true
		if len(l.v[at].kids) == 0 {
			return
		}
		from = at
	}
}

// fan draws parts of the tree one below the other: the first on the line, each
// other on a line of its own below all before it.
func (l *layout) fan(i int, kids []int, dir float64) {
	if len(kids) == 0 {
		l.v[i].up, l.v[i].down = max(l.v[i].up, 0.5), max(l.v[i].down, 0.5)
		return
	}
	l.branch(kids[0], l.v[i].x+dir*l.gap(i, kids[0]), l.v[i].y, dir)
	l.v[i].up = max(l.v[i].up, l.v[kids[0]].up, 0.5)
	below := max(l.v[kids[0]].down, 0.5)
	l.fanBelow(i, kids[1:], dir, below)
	l.v[i].down = max(l.v[i].down, below)
}

func (l *layout) fanBelow(i int, kids []int, dir, below float64) {
	for _, k := range kids {
		x := l.v[i].x + dir*max(l.gap(i, k), 1)
		l.branch(k, x, 0, dir)
		shift := l.v[i].y + below + l.v[k].up
		l.shift(k, shift)
		below += l.v[k].up + l.v[k].down
	}
	l.v[i].down = max(l.v[i].down, below)
}

func (l *layout) shift(i int, by float64) {
	l.v[i].y += by
	for _, k := range l.v[i].kids {
		l.shift(k, by)
	}
}

// reach is from where to where a part goes, downwards.
func (l *layout) reach(part []int) (least, most float64) {
	least, most = math.Inf(1), math.Inf(-1)
	for _, i := range part {
		half := l.size(i) / 2
		least, most = min(least, l.v[i].y-half), max(most, l.v[i].y+half)
	}
	return least, most
}
