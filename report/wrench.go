package report

import (
	"fmt"

	"handwerk/core/metrology"
	"handwerk/workshop/kinds/torque"
	"handwerk/workshop/say"
)

// mostBolts stand in a row of the table; a group of more goes on below.
const mostBolts = 10

// wrench prints a bolt group's readings: a column a bolt, a line a pass.
func (s *sheet) wrench(t *torque.WrenchTable) {
	for from := 0; from < len(t.Bolts); from += mostBolts {
		to := min(from+mostBolts, len(t.Bolts))
		s.wrenchRow("bolt", func(i int) (string, metrology.Verdict) { return fmt.Sprint(t.Bolts[i]), "" }, from, to)
		for _, row := range t.Rows {
			s.wrenchRow(fmt.Sprintf("pass %d", row.Pass), func(i int) (string, metrology.Verdict) {
				return row.Cells[i].Says, row.Cells[i].Verdict
			}, from, to)
		}
	}
	s.font("barlow", 7.6, quiet)
	for _, row := range t.Rows {
		says := fmt.Sprintf("pass %d: %s, %s", row.Pass, row.By, say.Moment(row.From, s.zone))
		if !row.To.Equal(row.From) {
			says += " to " + say.Moment(row.To, s.zone)
		}
		s.text(4, s.textW-4, 3.8, says, nil)
	}
}

func (s *sheet) wrenchRow(label string, at func(int) (string, metrology.Verdict), from, to int) {
	const labelW, height, indent = 14.0, 4.6, 4.0
	s.room(height)
	y, w := s.GetY(), (s.textW-labelW-indent)/mostBolts
	s.font("barlow", 8.5, quiet)
	s.print(inner+indent, y, height, label)
	for i := from; i < to; i++ {
		says, v := at(i)
		c := ink
		if v == metrology.Out {
			c = out
		}
		s.font("barlow", 8.5, c)
		s.print(inner+indent+labelW+float64(i-from)*w, y, height, says+outMark(v))
	}
	s.SetXY(inner, y+height)
}

// outMark tells a reading that is out by more than its colour.
func outMark(v metrology.Verdict) string {
	if v == metrology.Out {
		return " out"
	}
	return ""
}
