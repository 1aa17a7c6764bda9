package driveline

import "math"

// Lines that close a ring find their way between all others, on squared paper:
// no way runs through a place, one that crosses or covers a line is taken only
// where there is none that does not, and of the rest the shortest with the
// fewest corners.

const (
	square  = 0.25 // all places lie on it
	margin  = 6    // squares of free paper round everything
	corner  = 3    // in squares
	beside  = 6    // to run along the edge of a place
	crossed = 1000 // more than any detour
	blocked = 1000 * crossed
)

// paper is squared paper with what is drawn on it.
type paper struct {
	left, top     float64
	wide, high    int
	owner         []int32 // of each point: 1 + the vertex whose place it lies in
	edge          []int32 // of each point: on how many edges of places it lies
	right, down   []int32 // covered by a line from the point on
	upright, flat []int32 // lines through a point that way
	best, before  []int32 // of the way that is looked for
}

func (l *layout) newPaper() *paper {
	left, right, top, bottom := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, v := range l.v {
		left, right, top, bottom = min(left, v.x), max(right, v.x), min(top, v.y), max(bottom, v.y)
	}
	p := &paper{left: left - margin*square, top: top - margin*square}
	p.wide, p.high = int(math.Round((right-left)/square))+2*margin+1, int(math.Round((bottom-top)/square))+2*margin+1
	n := p.wide * p.high
	for _, list := range []*[]int32{&p.owner, &p.edge, &p.right, &p.down, &p.upright, &p.flat} {
		*list = make([]int32, n)
	}
	p.best, p.before = make([]int32, 2*n), make([]int32, 2*n)
	for i, v := range l.v {
		p.put(int32(i)+1, v.x, v.y, l.size(i))
	}
	return p
}

func (p *paper) at(x, y float64) int {
	return int(math.Round((y-p.top)/square))*p.wide + int(math.Round((x-p.left)/square))
}

func (p *paper) point(at int) [2]float64 {
	return [2]float64{p.left + float64(at%p.wide)*square, p.top + float64(at/p.wide)*square}
}

// put marks the points inside a place and those on its edge.
func (p *paper) put(owner int32, x, y, size float64) {
	half := int(math.Round(size / 2 / square))
	middle := p.at(x, y)
	for dy := -half; dy <= half; dy++ {
		for dx := -half; dx <= half; dx++ {
			at := middle + dy*p.wide + dx
			if max(dx, -dx) == half || max(dy, -dy) == half {
				p.edge[at]++
			} else {
				p.owner[at] = owner
			}
		}
	}
}

// line marks what a line covers, and where it would be crossed.
func (p *paper) line(points [][2]float64) {
	for k := 1; k < len(points); k++ {
		a, b := p.at(points[k-1][0], points[k-1][1]), p.at(points[k][0], points[k][1])
		if a > b {
			a, b = b, a
		}
		step, covered, through := 1, p.right, p.flat
		if (b-a)%p.wide == 0 && a != b {
			step, covered, through = p.wide, p.down, p.upright
		}
		for at := a; at <= b; at += step {
			through[at]++
			if at < b {
				covered[at]++
			}
		}
	}
}

// cost of the step between two points that lie beside each other, for a line
// between the places from and to.
func (p *paper) cost(a, b, from, to int) int {
	low := min(a, b)
	covered, through := p.right[low], p.upright
	if a-b == p.wide || b-a == p.wide {
		covered, through = p.down[low], p.flat
	}
	cost := 1 + int(covered)*crossed
	for _, at := range [2]int{a, b} {
		if at == from || at == to {
			continue
		}
		cost += int(through[at]) * crossed / 2
		if p.edge[at] > 0 {
			cost += beside
		}
		if o := p.owner[at]; o > 0 && o != p.owner[from] && o != p.owner[to] {
			cost += blocked
		}
	}
	return cost
}

// way is the cheapest from one point to another, by its corners.
func (p *paper) way(from, to int) [][2]float64 {
	// A point is reached level (2n) or upright (2n+1).
	for i := range p.best {
		p.best[i] = math.MaxInt32
	}
	var queue ahead
	for _, state := range [2]int32{2 * int32(from), 2*int32(from) + 1} {
		p.best[state], p.before[state] = 0, -1
		queue.push(reached{state, 0, 0})
	}
	for len(queue) > 0 {
		now := queue.pop()
		at, upright := int(now.state)/2, int(now.state)%2
		if at == to {
			return p.corners(int(now.state))
		}
		if now.cost > p.best[now.state] {
			continue
		}
		for way, next := range [4]int{at - 1, at + 1, at - p.wide, at + p.wide} {
			if next < 0 || next >= p.wide*p.high || (way < 2 && next/p.wide != at/p.wide) {
				continue
			}
			cost := now.cost + int32(p.cost(at, next, from, to))
			if way/2 != upright {
				cost += corner
			}
			if state := int32(2*next + way/2); cost < p.best[state] {
				p.best[state], p.before[state] = cost, now.state
				queue.push(reached{state, cost, cost + 3*p.apart(next, to)})
			}
		}
	}
	return nil // every point of the paper can be reached
}

// apart is what a way costs at least.
func (p *paper) apart(a, b int) int32 {
	dx, dy := a%p.wide-b%p.wide, a/p.wide-b/p.wide
	return int32(max(dx, -dx) + max(dy, -dy))
}

func (p *paper) corners(state int) [][2]float64 {
	points := [][2]float64{p.point(state / 2)}
	for p.before[state] >= 0 {
		last := int(p.before[state])
		if p.before[last] < 0 || state%2 != last%2 {
			points = append(points, p.point(last/2))
		}
		state = last
	}
	return points
}

// reached is a point on the way, what it cost so far, and what the whole way
// costs at least.
type reached struct{ state, cost, least int32 }

// ahead is a heap that gives the most promising first; container/heap would box
// each of some ten thousand points, and took twice as long.
type ahead []reached

func (q *ahead) push(r reached) {
	list := append(*q, r)
	for i := len(list) - 1; i > 0; {
		up := (i - 1) / 2
		if list[up].least <= list[i].least {
			break
		}
		list[up], list[i] = list[i], list[up]
		i = up
	}
	*q = list
}

func (q *ahead) pop() reached {
	list := *q
	first, last := list[0], len(list)-1
	list[0], list = list[last], list[:last]
	for i := 0; ; {
		down := 2*i + 1
		if down >= last {
			break
		}
		if down+1 < last && list[down+1].least < list[down].least {
			down++
		}
		if list[i].least <= list[down].least {
			break
		}
		list[i], list[down] = list[down], list[i]
		i = down
	}
	*q = list
	return first
}

// closeRings draws the lines that close rings.
func (l *layout) closeRings() {
	if len(l.rings) == 0 {
		return
	}
	p := l.newPaper()
	for _, line := range l.lines {
		p.line(line.Points)
	}
	for _, ring := range l.rings {
		a, b := l.v[ring[0]], l.v[ring[1]]
		points := p.way(p.at(b.x, b.y), p.at(a.x, a.y))
		p.line(points)
		l.line(ring[0], ring[1], points)
	}
}
