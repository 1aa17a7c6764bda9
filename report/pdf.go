package report

import (
	"cmp"
	"fmt"
	"io"
	"iter"
	"slices"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"handwerk/core/metrology"
	"handwerk/workshop"
	"handwerk/workshop/paper"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// The sheet in millimetres: the shop's paper with a drawing frame, the title
// block at the head of the first page.
const (
	frame = 10.0
	inner = frame + 6
	foot  = frame + 8
)

type rgb struct{ r, g, b int }

var (
	ink   = rgb{28, 43, 57}
	quiet = rgb{90, 102, 114}
	hair  = rgb{201, 193, 175}
	blue  = rgb{26, 79, 156}
	in    = rgb{44, 106, 75}
	out   = rgb{163, 49, 29}
	und   = rgb{138, 93, 0}
)

type sheet struct {
	pen
	rec  paper.Record
	zone *time.Location
	shop shop.Shop

	pageW, pageH, textW float64
}

// WritePDF prints a record as a drawing with its title block, times in the
// shop's zone, on its paper, with its name and its words at the foot. The same record
// gives the same bytes, as long as our own fonts have all its characters.
func WritePDF(w io.Writer, rec paper.Record, photos iter.Seq2[workshop.Photo, error], zone *time.Location,
	shop shop.Shop) error {
	all, err := faces()
	if err != nil {
		return err
	}
	s := &sheet{
		pen:  pen{Fpdf: fpdf.New("P", "mm", cmp.Or(shop.Paper, "A4"), ""), faces: all},
		rec:  rec,
		zone: zone,
		shop: shop,
	}
	s.pageW, s.pageH = s.GetPageSize()
	s.textW = s.pageW - 2*inner
	s.SetCatalogSort(true)
	stamp := rec.Rebuild.OpenedAt
	if rec.SignedAt != nil {
		stamp = *rec.SignedAt
	}
	s.SetCreationDate(stamp)
	s.SetModificationDate(stamp)
	s.SetTitle("Record "+rec.Rebuild.Number, true)
	s.SetCreator("Handwerk", true)
	register(s.Fpdf, all)
	s.SetMargins(inner, inner, inner)
	s.SetAutoPageBreak(false, 0)
	s.AliasNbPages("{pages}")
	s.SetFooterFunc(s.footer)
	s.SetHeaderFunc(s.edge)
	s.AddPage()
	s.titleBlock()
	s.summary()
	s.toSign()
	s.AddPage()
	s.stations()
	s.found()
	s.handover()
	s.checkpoint()
	if err := s.pictures(photos); err != nil {
		return err
	}
	return s.Output(w)
}

func (s *pen) font(name string, size float64, c rgb) {
	s.face, s.size = s.faces[name], size
	s.use(false)
	s.SetTextColor(c.r, c.g, c.b)
}

// edge draws the frame of every page.
func (s *sheet) edge() {
	s.SetDrawColor(ink.r, ink.g, ink.b)
	s.SetLineWidth(0.5)
	s.Rect(frame, frame, s.pageW-2*frame, s.pageH-2*frame, "D")
	s.SetXY(inner, inner-1)
}

func (s *sheet) footer() {
	s.font("mono", 6.5, quiet)
	s.SetXY(inner, s.pageH-frame-5)
	s.CellFormat(s.textW-20, 4, "record "+s.rec.Rebuild.Head.Hash, "", 0, "L", false, 0, "")
	s.CellFormat(20, 4, fmt.Sprintf("%d / {pages}", s.PageNo()), "", 0, "R", false, 0, "")
}

// text prints rows of a text at an indent and goes on over as many pages as
// it takes; after is called with each row's place, before the next.
func (s *sheet) text(indent, w, height float64, text string, after func(y float64, row string)) {
	face, size := s.face, s.size
	for _, row := range s.wrap(text, w) {
		if s.room(height) {
			s.face, s.size = face, size
		}
		y := s.GetY()
		s.print(inner+indent, y, height, row)
		if after != nil {
			after(y, row)
		}
		s.SetXY(inner, y+height)
	}
}

func (s *sheet) stations() {
	for _, st := range s.rec.Stations {
		if !worked(st) {
			continue
		}
		s.room(16)
		s.SetDrawColor(ink.r, ink.g, ink.b)
		s.SetLineWidth(0.35)
		y := s.GetY()
		s.Line(frame, y, inner+s.textW, y)
		s.SetY(y + 1)
		s.font("barlowB", 12, ink)
		s.text(0, s.textW, 7, st.Title, nil)
		for _, step := range st.Steps {
			if slices.ContainsFunc(step.Lines, onPaper) {
				s.step(step)
			}
		}
		s.SetY(s.GetY() + 3)
	}
}

func worked(st paper.RecordStation) bool {
	return slices.ContainsFunc(st.Steps, func(step paper.RecordStep) bool {
		return slices.ContainsFunc(step.Lines,
			onPaper)
	})
}

// onPaper tells that a line says something to the customer.
func onPaper(l paper.RecordLine) bool { return l.Paper != "" }

func (s *sheet) step(step paper.RecordStep) {
	s.room(11)
	s.font("barlowB", 10, blue)
	s.text(0, s.textW, 5.5, step.Title, nil)
	if step.Wrench != nil {
		s.wrench(step.Wrench)
	}
	for _, line := range step.Lines {
		if onPaper(line) && !line.Wrench {
			s.line(line)
		}
	}
	s.SetY(s.GetY() + 1)
}

// line prints one entry: the words, its verdict as shape and word, who, when.
func (s *sheet) line(l paper.RecordLine) {
	const whoW, verdictW, indent, height = 50.0, 22.0, 4.0, 4.4
	wordsW := s.textW - whoW - verdictW - indent
	s.room(height)
	y := s.GetY()
	if !l.Struck {
		s.verdict(inner+indent+wordsW, y, l.Verdict)
	}
	s.font("barlow", 7.6, quiet)
	who := s.wrap(l.By, whoW-26)
	s.printRight(inner+s.textW, y, height, who[0]+" · "+say.Moment(l.At, s.zone))
	s.SetY(y)
	c := ink
	if l.Struck {
		c = quiet
	}
	s.font("barlow", 9.2, c)
	s.text(indent, wordsW, height, l.Paper, func(y float64, row string) {
		if l.Struck {
			s.SetDrawColor(quiet.r, quiet.g, quiet.b)
			s.SetLineWidth(0.25)
			s.Line(inner+indent+1, y+2.3, inner+indent+1+s.width(row), y+2.3)
		}
	})
}

// verdict is told by shape and word first: disc in, square out, diamond undecided.
func (s *sheet) verdict(x, y float64, v metrology.Verdict) {
	cx, cy, r := x+2, y+2.2, 1.3
	var c rgb
	switch v {
	case metrology.In:
		c = in
		s.fill(c)
		s.Circle(cx, cy, r, "F")
	case metrology.Out:
		c = out
		s.fill(c)
		s.Rect(cx-r, cy-r, 2*r, 2*r, "F")
	case metrology.Undecided:
		c = und
		s.fill(c)
		s.Polygon([]fpdf.PointType{{X: cx, Y: cy - 1.7}, {X: cx + 1.7, Y: cy}, {X: cx, Y: cy + 1.7},
			{X: cx - 1.7, Y: cy}}, "F")
	default:
		return
	}
	s.font("barlowB", 8.5, c)
	s.print(x+4.5, y, 4.4, string(v))
}

func (s *pen) fill(c rgb) { s.SetFillColor(c.r, c.g, c.b) }

// found prints what was seen along the way and what became of it.
func (s *sheet) found() {
	if len(s.rec.Found) == 0 {
		return
	}
	s.room(14 + 6*float64(len(s.rec.Found)))
	s.SetY(s.GetY() + 2)
	s.font("barlowB", 12, ink)
	s.text(4, s.textW-4, 7, "Found something else", nil)
	for _, f := range s.rec.Found {
		c := ink
		if f.Severity == "unsafe" {
			c = out
		}
		s.font("barlow", 10.5, c)
		s.text(4, s.textW-4, 5.2, f.Says+": "+f.Words, nil)
	}
}

// handover prints what the customer takes home.
func (s *sheet) handover() {
	if len(s.rec.Handover) == 0 {
		return
	}
	s.room(14 + 6*float64(len(s.rec.Handover)))
	s.SetY(s.GetY() + 2)
	y, page := s.GetY(), s.PageNo()
	s.font("barlowB", 12, blue)
	s.text(4, s.textW-4, 7, "Running in", nil)
	s.font("barlow", 10.5, ink)
	for i, text := range s.rec.Handover {
		s.text(4, s.textW-4, 5.2, fmt.Sprintf("%d.  %s", i+1, text), nil)
	}
	s.SetDrawColor(blue.r, blue.g, blue.b)
	s.SetLineWidth(0.5)
	if s.PageNo() == page {
		s.Line(inner, y, inner, s.GetY())
	}
	s.font("barlow", 8, quiet)
	s.text(
		4,
		s.textW-4,
		5,
		"This record says what was found, measured and done. It is no promise that the vehicle is safe; "+
			"road approval follows local rules.",
		nil,
	)
	if s.shop.Foot != "" {
		s.text(4, s.textW-4, 5, s.shop.Foot, nil)
	}
}

// checkpoint prints the signed head of the log over all rebuilds.
func (s *sheet) checkpoint() {
	if s.rec.Checkpoint == "" {
		return
	}
	s.room(24)
	s.SetY(s.GetY() + 3)
	s.font("barlow", 8, quiet)
	s.text(
		0,
		s.textW,
		4,
		"Seal of the shop's log when this record was printed. It lets anyone check that nothing recorded up to then is missing or changed.",
		nil,
	)
	s.font("mono", 6.5, quiet)
	s.text(0, s.textW, 3.2, strings.TrimSpace(s.rec.Checkpoint), nil)
}

// room begins a new page when less than h is left, and tells whether it did.
func (s *sheet) room(h float64) bool {
	if s.GetY()+h <= s.pageH-foot-2 {
		return false
	}
	c := [3]int{}
	c[0], c[1], c[2] = s.GetTextColor()
	s.AddPage()
	s.SetTextColor(c[0], c[1], c[2])
	return true
}
