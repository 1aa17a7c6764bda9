package torque

import (
	"slices"
	"strings"
	"time"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
)

// WrenchTable is what the wrench showed at a bolt group, a line a pass: forty
// readings are no list.
type WrenchTable struct {
	Bolts []int        `json:"bolts"` // in the order they were tightened
	Rows  []WrenchPass `json:"rows"`
}

// WrenchPass is one pass over the bolts.
type WrenchPass struct {
	Pass  int          `json:"pass"`
	Cells []WrenchCell `json:"cells"` // a bolt each; empty where none was read
	By    string       `json:"by"`    // who turned them
	From  time.Time    `json:"from"`
	To    time.Time    `json:"to"`
}

// WrenchCell is one reading that stands.
type WrenchCell struct {
	Says    string            `json:"says"`
	Verdict metrology.Verdict `json:"verdict,omitempty"`
}

// TableOf gathers the readings of a torque step that stand; nil where none do.
func TableOf(s *record.State, step *record.Step) *WrenchTable {
	if step.Kind != book.Torque {
		return nil
	}
	t := &WrenchTable{}
	st := s.At(step)
	for e := range st.Each(st.Live) {
		if e.Is(acts.Torqued{}) && !slices.Contains(t.Bolts, e.Item.Bolt) {
			t.Bolts = append(t.Bolts, e.Item.Bolt)
		}
	}
	for e := range st.Each(st.Live) {
		if e.Is(acts.Torqued{}) {
			t.put(e)
		}
	}
	if len(t.Rows) == 0 {
		return nil
	}
	slices.SortFunc(t.Rows, func(a, b WrenchPass) int { return a.Pass - b.Pass })
	return t
}

func (t *WrenchTable) put(e *record.Entry) {
	i := slices.IndexFunc(t.Rows, func(r WrenchPass) bool { return r.Pass == e.Item.Pass })
	if i < 0 {
		i = len(t.Rows)
		t.Rows = append(t.Rows, WrenchPass{Pass: e.Item.Pass, Cells: make([]WrenchCell, len(t.Bolts)), From: e.At,
			To: e.At})
	}
	row, said := &t.Rows[i], record.As[acts.Torqued](e)
	row.Cells[slices.Index(t.Bolts, e.Item.Bolt)] = WrenchCell{said.Words(), e.Verdict}
	if e.At.Before(row.From) {
		row.From = e.At
	}
	if e.At.After(row.To) {
		row.To = e.At
	}
	if !slices.Contains(strings.Split(row.By, ", "), e.By.Name) {
		row.By = strings.TrimPrefix(row.By+", "+e.By.Name, ", ")
	}
}
