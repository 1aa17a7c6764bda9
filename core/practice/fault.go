package practice

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"

	"handwerk/core/input"
)

// fault is a four-wheel driveline with an open centre differential that can be
// locked, and with one part broken, or two. What a test shows follows from
// which branches carry torque.
type fault struct {
	level  string
	broken map[string]bool
	causes []string // as it came
}

// driveParts are the parts that may be broken, with what they cost and the minutes
// to fit one.
var driveParts = []struct {
	name           string
	price, minutes float64
}{
	{"clutch", 280, 360},
	{"centre differential", 640, 420},
	{"centre lock", 190, 90},
	{"rear propshaft", 320, 60},
	{"rear differential", 520, 300},
	{"rear left half shaft", 140, 50},
	{"rear right half shaft", 140, 50},
	{"front propshaft", 300, 60},
	{"front differential", 480, 330},
	{"front left half shaft", 160, 80},
	{"front right half shaft", 160, 80},
}

// driveTests are what may be tried, and the minutes it takes.
var driveTests = []struct {
	name    string
	minutes float64
	shows   func(f *fault) string
}{
	{"pull away, lock out", 10, func(f *fault) string {
		return f.drives(!f.broken["centre differential"] && f.carries("front") && f.carries("rear"))
	}},
	{"pull away, lock in", 10, func(f *fault) string {
		locked := !f.broken["centre lock"]
		all := !f.broken["centre differential"] && f.carries("front") && f.carries("rear")
		return f.drives(locked && (f.carries("front") || f.carries("rear")) || all)
	}},
	{"rear propshaft turned by hand, wheels on the ground", 8, func(f *fault) string { return f.branch("rear") }},
	{"front propshaft turned by hand, wheels on the ground", 8, func(f *fault) string { return f.branch("front") }},
	{"rear left wheel turned, propshaft held", 12, func(f *fault) string { return f.wheel("rear", "left", "right") }},
	{"rear right wheel turned, propshaft held", 12, func(f *fault) string { return f.wheel("rear", "right", "left") }},
	{"front left wheel turned, propshaft held", 12, func(f *fault) string { return f.wheel("front", "left", "right") }},
	{
		"front right wheel turned, propshaft held",
		12,
		func(f *fault) string { return f.wheel("front", "right", "left") },
	},
	{"rear half shafts drawn", 45, func(f *fault) string { return f.looks("rear") }},
	{"front half shafts drawn", 70, func(f *fault) string { return f.looks("front") }},
	{
		"lock worked by hand, engine off",
		10,
		func(f *fault) string { return say(f.broken["centre lock"], "nothing moves", "it engages") },
	},
}

func say(is bool, yes, no string) string {
	if is {
		return yes
	}
	return no
}

func (f *fault) drives(carries bool) string {
	switch {
	case f.broken["clutch"]:
		return "the engine races, it creeps"
	case carries:
		return "it drives"
	}
	return "it stays put, something turns underneath"
}

func (f *fault) sideBroken(end, side string) bool { return f.broken[end+" "+side+" half shaft"] }

// carries tells that an axle takes torque: behind an open differential both sides have to.
func (f *fault) carries(end string) bool {
	return !f.broken[end+" propshaft"] && !f.broken[end+" differential"] && !f.sideBroken(end, "left") &&
		!f.sideBroken(end, "right")
}

// branch is a propshaft turned behind its break or before it.
func (f *fault) branch(end string) string {
	if f.broken[end+" propshaft"] {
		return "it turns, and its far end stays still"
	}
	return say(f.carries(end), "it takes up and holds", "it goes on turning")
}

// wheel is a wheel turned with the propshaft held.
func (f *fault) wheel(end, turned, other string) string {
	switch {
	case f.sideBroken(end, turned):
		return "light; the other stays still"
	case f.broken[end+" differential"], f.sideBroken(end, other):
		return "it turns; the other stays still"
	}
	return "the other turns back"
}

func (f *fault) looks(end string) string {
	for _, side := range []string{"left", "right"} {
		if f.sideBroken(end, side) {
			return "the " + side + " one is broken"
		}
	}
	return "both are whole"
}

func newFault(draw *rand.Rand, level string) *fault {
	f := &fault{level: level, broken: map[string]bool{}}
	n := 1
	if level == Trap {
		n = 2 // one hides the other
	}
	for _, i := range draw.Perm(len(driveParts))[:n] {
		f.causes = append(f.causes, driveParts[i].name)
		f.broken[driveParts[i].name] = true
	}
	slices.Sort(f.causes)
	return f
}

func (f *fault) given() Given {
	g := Given{
		Complaint: "No drive, or not as it was. A four-wheel driveline with an open centre differential that can be locked.",
		Minutes:   GivenMinutes{Read: 0},
	}
	for _, t := range driveTests {
		g.Reads = append(g.Reads, t.name)
	}
	for _, p := range driveParts {
		g.Parts = append(g.Parts, Part{p.name, p.price})
	}
	return g
}

func (f *fault) check(c *input.Checks, at string, a Act) {
	var parts []string
	for _, p := range driveParts {
		parts = append(parts, p.name)
	}
	switch {
	case a.Assemble != nil:
		c.Add(at+".assemble", "read or order", "a part that is ordered is fitted too")
	case a.Order != "":
		only(c, at+".order", a.Order, parts)
	default:
		only(c, at+".read", a.Read, f.given().Reads)
	}
}

func (f *fault) do(a Act, noise *rand.Rand) Answer {
	if a.Order != "" {
		return f.fit(a.Order)
	}
	for _, t := range driveTests {
		if t.name == a.Read {
			if f.level != Clean && noise.Float64() < 0.05 {
				return Answer{Says: "hard to tell; try it again", Minutes: t.minutes}
			}
			return Answer{Says: t.shows(f), Minutes: t.minutes}
		}
	}
	return Answer{}
}

// fit orders a part and fits it.
func (f *fault) fit(name string) Answer {
	i := slices.IndexFunc(driveParts, func(p struct {
		name           string
		price, minutes float64
	}) bool {
		return p.name == name
	})
	p := driveParts[i]
	delete(f.broken, name)
	return Answer{Says: "it is in; the old one lies on the bench", Minutes: p.minutes, Money: p.price}
}

func (f *fault) done() bool { return len(f.broken) == 0 }

// with is the same line with other parts broken.
func (f *fault) with(broken ...string) *fault {
	x := &fault{level: Clean, broken: map[string]bool{}, causes: broken}
	for _, b := range broken {
		x.broken[b] = true
	}
	return x
}

// suspects are all ways in which as many parts as were broken may be.
func (f *fault) suspects() (all [][]string) {
	for i, p := range driveParts {
		if len(f.causes) < 2 {
			all = append(all, []string{p.name})
			continue
		}
		for _, q := range driveParts[i+1:] {
			all = append(all, []string{p.name, q.name})
		}
	}
	return all
}

// best is the test that parts what is left best for its minutes; less than 0 when nothing does.
func (f *fault) best(left [][]string) int {
	best, most := -1, 0.0
	for i, t := range driveTests {
		counts := map[string]float64{}
		for _, s := range left {
			counts[t.shows(f.with(s...))]++
		}
		gain := 0.0
		for _, n := range counts {
			p := n / float64(len(left))
			gain -= p * math.Log2(p)
		}
		if v := gain / t.minutes; v > most+1e-12 {
			best, most = i, v
		}
	}
	return best
}

// bestPath tests what parts the suspects best for its minutes, until one is left.
func (f *fault) bestPath() (path []Act) {
	left := f.suspects()
	for len(left) > 1 {
		i := f.best(left)
		if i < 0 {
			break
		}
		t := driveTests[i]
		path = append(path, Act{Read: t.name})
		shown := t.shows(f)
		left = slices.DeleteFunc(left, func(s []string) bool { return t.shows(f.with(s...)) != shown })
	}
	for _, c := range f.causes {
		path = append(path, Act{Order: c})
	}
	return path
}

// better says what a wrong order should have been.
func (f *fault) better(a Act) (Act, string) {
	if a.Order == "" || f.broken[a.Order] {
		return Act{}, ""
	}
	if f.done() {
		return Act{Read: driveTests[0].name}, "all was right already: drive it before ordering"
	}
	var open []string
	for _, p := range driveParts {
		if f.broken[p.name] {
			open = append(open, p.name)
		}
	}
	for _, t := range driveTests {
		if t.shows(f.with(a.Order)) != t.shows(f) {
			return Act{
					Read: t.name,
				}, fmt.Sprintf(
					"this test would have told it: “%s”, while a broken %s shows “%s”",
					t.shows(f),
					a.Order,
					t.shows(f.with(a.Order)),
				)
		}
	}
	return Act{Order: open[0]}, "it was not broken; " + strings.Join(open, " and ") + " was"
}

func (f *fault) truth() Truth {
	t := Truth{Within: f.done(), Causes: f.causes}
	if f.level == Trap {
		t.Trap = "two parts were broken, one behind the other"
	}
	return t
}
