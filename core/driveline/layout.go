package driveline

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
)

// DrawIn asks how a driveline is laid out on paper.
type DrawIn struct {
	Members []Member `json:"members"`
}

// Drawing is a driveline as seen from above, front at the left, the left side
// below; one unit is the size of a member.
type Drawing struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
	Places []Place `json:"places"`
	Lines  []Line  `json:"lines"`
}

// Place is where a shaft or a member stands; its middle, and how large it is.
type Place struct {
	Name string `json:"name"` // of the shaft, or the member's id
	What string `json:"what"` // shaft, end (a shaft of which only one end is taken), member
	Kind string `json:"kind,omitempty"`
	Says string `json:"says,omitempty"`
	// Across is set where the line runs across the vehicle, as axle shafts do.
	Across bool    `json:"across,omitempty"`
	X      float64 `json:"x"`
	Y      float64 `json:"y"`
	Size   float64 `json:"size"`
}

// Line joins a shaft to a member, over its corners.
type Line struct {
	Shaft  string       `json:"shaft"`
	Member string       `json:"member"`
	Points [][2]float64 `json:"points"`
}

// Draw lays a driveline out. Where shafts and members form a tree no two of
// them overlap and no lines cross. The source of the drive (the end nearest to
// the engine) stands above where the line first parts; what drives the front
// goes to the left, the rear to the right, and the two sides of an axle go
// across. What closes a ring, as a lock beside a differential, finds its way between;
// with one ring nothing is crossed.
func Draw(in DrawIn) (Drawing, error) {
	var c input.Checks
	if len(in.Members) < 1 || len(in.Members) > maxMembers {
		c.Add("members", fmt.Sprintf("1 to %d members", maxMembers), "%d members", len(in.Members))
	} else {
		(&model{shafts: map[string]int{}}).takeMembers(&c, in.Members)
	}
	if err := c.Err(); err != nil {
		return Drawing{}, err
	}
	l := newLayout(in.Members)
	l.place()
	return l.drawing(), nil
}

// DrawMethod is Draw as the catalogue lists it.
var DrawMethod = calculator.Define(examples, calculator.About{
	Name: "driveline-drawing", Version: 1,
	Purpose: "where the members of a driveline stand on paper: seen from above, front at the left, the left " +
		"side below",
	Formula: "tree over shafts and members: the source above the first parting, front and rear to its sides, " +
		"the sides of an axle across; bands of their own, so that nothing overlaps or crosses",
	Assumes: "front, rear, left, right are told by the names of wheels; what closes a ring finds its way " +
		"between all others and crosses nothing where that can be",
	Sources: []string{"layered drawing of trees, Reingold and Tilford (1981), simplified"},
}, Draw)

// layout draws the graph whose vertices are shafts and members.
type layout struct {
	members []Member
	v       []vertex
	shafts  map[string]int
	rings   [][2]int // edges that close a ring: member, shaft
	lines   []Line
}

type vertex struct {
	name     string
	member   int // -1: a shaft
	joins    []int
	kids     []int // in the tree
	across   bool
	x, y     float64
	front    int // leaves that drive the front, less those that drive the rear
	left     int // likewise
	deep     float64
	up, down float64 // what its part of the tree takes on paper
}

func newLayout(members []Member) *layout {
	l := &layout{members: members, shafts: map[string]int{}}
	shaft := func(name string) int {
		i, ok := l.shafts[name]
		if !ok {
			i = len(l.v)
			l.shafts[name] = i
			l.v = append(l.v, vertex{name: name, member: -1})
		}
		return i
	}
	for i, m := range members {
		ends := []string{m.A, m.B}
		if m.Kind == differential {
			ends = []string{m.Carrier, m.A, m.B}
		}
		var at []int
		for _, name := range ends {
			at = append(at, shaft(name))
		}
		me := len(l.v)
		l.v = append(l.v, vertex{name: m.ID, member: i})
		for _, s := range at {
			l.v[me].joins = append(l.v[me].joins, s)
			l.v[s].joins = append(l.v[s].joins, me)
		}
	}
	return l
}

// place lays out each part that hangs together, one below the other.
func (l *layout) place() {
	top := 0.0
	seen := make([]bool, len(l.v))
	for {
		root := l.source(seen)
		if root < 0 {
			break
		}
		part := l.grow(root, seen)
		l.measure(root)
		l.spread(root)
		least, most := l.reach(part)
		for _, i := range part {
			l.v[i].y += top - least
		}
		top += most - least + 1
	}
	l.draw()
}

// source is the end from which the drive comes: what is called engine or
// input, else an end that is no wheel, else any.
func (l *layout) source(seen []bool) int {
	best, rank := -1, 99
	for i, v := range l.v {
		if seen[i] {
			continue
		}
		r := 4
		switch {
		case v.member >= 0:
			r = 5
		case strings.Contains(v.name, "engine"):
			r = 0
		case strings.Contains(v.name, "input"):
			r = 1
		case len(v.joins) == 1 && side(v.name) == 0:
			r = 2
		case len(v.joins) == 1:
			r = 3
		}
		if r < rank {
			best, rank = i, r
		}
	}
	return best
}

// side of a wheel by its name: 1 left, -1 right, 0 neither.
func side(name string) int { return which(name, "left", "right") }

func end(name string) int { return which(name, "front", "rear") }

func which(name, yes, no string) int {
	switch {
	case strings.Contains(name, yes) && !strings.Contains(name, no):
		return 1
	case strings.Contains(name, no) && !strings.Contains(name, yes):
		return -1
	}
	return 0
}

// grow makes a tree of what hangs together, breadth first, and keeps apart
// what closes rings.
func (l *layout) grow(root int, seen []bool) []int {
	part := []int{root}
	seen[root] = true
	parent := map[int]int{root: -1}
	for k := 0; k < len(part); k++ {
		at := part[k]
		for _, next := range l.v[at].joins {
			switch {
			case next == parent[at]:
			case !seen[next]:
				seen[next] = true
				parent[next] = at
				l.v[at].kids = append(l.v[at].kids, next)
				part = append(part, next)
			case l.v[at].member >= 0 && !slices.Contains(l.v[next].kids, at):
				l.rings = append(l.rings, [2]int{at, next})
			}
		}
	}
	return part
}

// size of a vertex: a shaft between two members is a short piece of line.
func (l *layout) size(i int) float64 {
	if v := l.v[i]; v.member < 0 && len(v.joins) == 2 {
		return 0.5
	}
	return 1
}

// gap between the middles of two that follow each other.
func (l *layout) gap(a, b int) float64 { return (l.size(a) + l.size(b)) / 2 }

// draw makes the lines: of the tree straight or round one corner, then those
// that close rings between them.
func (l *layout) draw() {
	for i, v := range l.v {
		for _, k := range v.kids {
			to := l.v[k]
			points := [][2]float64{{v.x, v.y}, {to.x, to.y}}
			if v.x != to.x && v.y != to.y {
				points = [][2]float64{{v.x, v.y}, {v.x, to.y}, {to.x, to.y}}
			}
			l.line(i, k, points)
		}
	}
	l.closeRings()
}

func (l *layout) line(a, b int, points [][2]float64) {
	if l.v[a].member >= 0 {
		a, b = b, a
	}
	l.lines = append(l.lines, Line{l.v[a].name, l.v[b].name, points})
}

// drawing moves everything to begin at nought.
func (l *layout) drawing() Drawing {
	left, right, top, bottom := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	stretch := func(x, y, half float64) {
		left, right, top, bottom = min(left, x-half), max(right, x+half), min(top, y-half), max(bottom, y+half)
	}
	for i, v := range l.v {
		stretch(v.x, v.y, l.size(i)/2)
	}
	for _, line := range l.lines {
		for _, p := range line.Points {
			stretch(p[0], p[1], 0.25)
		}
	}
	d := Drawing{Width: round(right - left), Height: round(bottom - top), Places: make([]Place, len(l.v)),
		Lines: l.lines}
	for i, v := range l.v {
		p := Place{Name: v.name, What: "shaft", Across: v.across, X: round(v.x - left), Y: round(v.y - top),
			Size: l.size(i)}
		switch {
		case v.member >= 0:
			m := l.members[v.member]
			p.What, p.Kind, p.Says = "member", m.Kind, m.Says
		case len(v.joins) == 1:
			p.What = "end"
		}
		d.Places[i] = p
	}
	for i := range d.Lines {
		for k := range d.Lines[i].Points {
			p := &d.Lines[i].Points[k]
			p[0], p[1] = round(p[0]-left), round(p[1]-top)
		}
	}
	return d
}

func round(v float64) float64 { return math.Round(v*1000) / 1000 }
