package paper

import (
	"cmp"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"handwerk/workshop/kinds/stack"
	"handwerk/workshop/record"
)

// Tray is where parts of a rebuild lie, as somebody named it when they came off.
type Tray struct {
	Name  string     `json:"name"`
	Parts []TrayPart `json:"parts"`
}

// TrayPart is a part that came off, with where it lies and where it goes.
type TrayPart struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Seen   string `json:"seen,omitempty"` // the way it faced
	Photo  string `json:"photo,omitempty"`
	Step   string `json:"step"` // at which it came off
	Title  string `json:"title"`
	Fitted bool   `json:"fitted"` // it is back in, and no longer there
}

// Trays lists where the parts of a rebuild lie, in the order of the trays'
// numbers; parts that nobody said a tray of come last, under an empty name.
func Trays(l record.Ledger) []Tray {
	s, trays := l.State(), []Tray{}
	for _, removal := range stack.Removals(l.Plan.Steps) {
		back := stack.FindFitted(s, removal)
		for _, p := range stack.Stack(s, removal) {
			if p.Removed != stack.PartRemoved {
				continue
			}
			i := slices.IndexFunc(trays, func(t Tray) bool { return t.Name == p.Tray })
			if i < 0 {
				i = len(trays)
				trays = append(trays, Tray{Name: p.Tray})
			}
			trays[i].Parts = append(trays[i].Parts,
				TrayPart{p.ID, p.Name, cmp.Or(p.Seen, p.Faces), p.Photo, removal.ID, removal.Title, back[p.ID]})
		}
	}
	slices.SortStableFunc(trays, func(a, b Tray) int {
		return cmp.Or(cmp.Compare(empty(a.Name), empty(b.Name)), cmp.Compare(number(a.Name), number(b.Name)),
			strings.Compare(a.Name, b.Name))
	})
	return trays
}

func empty(name string) int {
	if name == "" {
		return 1
	}
	return 0
}

var digits = regexp.MustCompile(`\d+`)

// number is the first in a name: tray 2 comes before tray 10.
func number(name string) int {
	n, _ := strconv.Atoi(digits.FindString(name)) // none is nought
	return n
}
