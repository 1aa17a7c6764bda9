package report

import (
	"cmp"
	"slices"
	"strings"

	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// promised says the day as it was promised last, and at first.
func promised(r record.Rebuild) string {
	if r.Place.Promised == "" || r.Place.Promised == r.Promised {
		return r.Promised
	}
	return r.Place.Promised + ", first promised " + r.Promised
}

// titleBlock is the block of a drawing: what it is, of whom, by whom.
func (s *sheet) titleBlock() {
	r := s.rec.Rebuild
	top := frame
	s.font("mono", 26, ink)
	s.print(inner, top+5, 11, r.Number)
	s.SetY(top + 4.5)
	s.font("barlowB", 15, ink)
	s.text(62, s.textW-62, 7, r.Unit.Name+", "+r.Vehicle.Name, nil)
	s.font("barlow", 10.5, quiet)
	s.text(62, s.textW-62, 5.5, r.Owner()+" · "+r.Unit.SerialWords(), nil)
	s.SetY(max(s.GetY()+1, top+20))
	rows := [][2]string{
		{"workshop", joined(", ", s.shop.Name, s.shop.Address)}, {"registration", registration(r)},
		{"complaint", r.Complaint}, {"was told", r.Told},
		{"arrived", joined(", ", say.Moment(r.OpenedAt, s.zone), r.Odometer)}, {"promised", promised(r)},
		{"spec sheet", s.rec.Sheet}, {"signed", s.signature()}, {"times", cmp.Or(s.shop.Zone, s.zone.String())},
	}
	for _, row := range rows {
		if row[1] == "" {
			continue
		}
		s.room(6)
		s.SetLineWidth(0.2)
		s.SetDrawColor(hair.r, hair.g, hair.b)
		y := s.GetY()
		s.Line(inner, y, s.pageW-inner, y)
		s.font("barlow", 8.5, quiet)
		s.print(inner, y+0.6, 5, row[0])
		s.SetY(y + 0.6)
		s.font("barlow", 9.5, ink)
		s.text(24, s.textW-24, 4.8, row[1], nil)
		s.SetY(s.GetY() + 0.7)
	}
	s.SetLineWidth(0.5)
	s.SetDrawColor(ink.r, ink.g, ink.b)
	s.Line(frame, s.GetY()+1, s.pageW-frame, s.GetY()+1)
	s.SetY(s.GetY() + 6)
}

// registration is the plate, where it is not forgotten.
func registration(r record.Rebuild) string {
	if r.Whose == nil {
		return ""
	}
	return r.Whose.Registration
}

// joined puts a word between what is said.
func joined(between string, parts ...string) string {
	return strings.Join(slices.DeleteFunc(parts, func(p string) bool { return p == "" }), between)
}

// summary is the record on one page: what was agreed, found, fitted, how it came
// out and what is open.
func (s *sheet) summary() {
	sum := s.rec.Summary
	for _, part := range []struct {
		title string
		lines []string
	}{
		{"Agreed", sum.Agreed}, {"Found", sum.Found}, {"Fitted", sum.Fitted}, {"Results", sum.Results},
		{"Open", sum.Open},
	} {
		if len(part.lines) == 0 {
			continue
		}
		s.room(12)
		s.font("barlowB", 11, blue)
		s.text(0, s.textW, 6, part.title, nil)
		s.font("barlow", 9.5, ink)
		for _, line := range part.lines {
			s.text(4, s.textW-4, 4.8, line, nil)
		}
		s.SetY(s.GetY() + 2)
	}
}

// toSign are the lines for workshop and customer, at the foot of the page.
func (s *sheet) toSign() {
	const height, gap = 22.0, 10.0
	s.room(height)
	y, w := s.pageH-foot-12, (s.textW-gap)/2
	s.SetDrawColor(ink.r, ink.g, ink.b)
	s.SetLineWidth(0.25)
	for i, who := range []string{"workshop", "customer"} {
		x := inner + float64(i)*(w+gap)
		s.Line(x, y, x+w, y)
		s.font("barlow", 8, quiet)
		s.print(x, y+0.8, 4, who+", day and name")
	}
}

func (s *sheet) signature() string {
	if s.rec.SignedAt == nil {
		return "not signed: work not finished"
	}
	return s.rec.SignedBy + ", lead, " + say.Moment(*s.rec.SignedAt, s.zone)
}
