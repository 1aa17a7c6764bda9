package report

import (
	"bytes"
	_ "embed"
	"fmt"
	"io"
	"strings"
	"time"

	"github.com/go-pdf/fpdf"

	"handwerk/core/metrology"
	"handwerk/workshop"
)

//go:embed fonts/barlow-400.ttf
var barlow []byte

//go:embed fonts/barlow-600.ttf
var barlowBold []byte

//go:embed fonts/jetbrains-mono-500.ttf
var mono []byte

// The sheet in millimetres: A4 with a drawing frame, the title block at the
// foot of the first page.
const (
	pageW, pageH = 210.0, 297.0
	frame        = 10.0
	inner        = frame + 6
	textW        = pageW - 2*inner
	blockH       = 52.0
	foot         = frame + 8
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
	*fpdf.Fpdf
	rec workshop.Record
}

// WritePDF prints a record as a drawing with its title block. The same record
// gives the same bytes.
func WritePDF(w io.Writer, rec workshop.Record, photos []workshop.Photo) error {
	s := &sheet{fpdf.New("P", "mm", "A4", ""), rec}
	s.SetCatalogSort(true)
	stamp := rec.Rebuild.OpenedAt
	if rec.SignedAt != nil {
		stamp = *rec.SignedAt
	}
	s.SetCreationDate(stamp)
	s.SetModificationDate(stamp)
	s.SetTitle("Record "+rec.Rebuild.Number, true)
	s.SetCreator("Handwerk", true)
	s.AddUTF8FontFromBytes("barlow", "", barlow)
	s.AddUTF8FontFromBytes("barlow", "B", barlowBold)
	s.AddUTF8FontFromBytes("mono", "", mono)
	s.SetMargins(inner, inner, inner)
	s.SetAutoPageBreak(false, 0)
	s.AliasNbPages("{pages}")
	s.SetFooterFunc(s.footer)
	s.SetHeaderFunc(s.edge)
	s.AddPage()
	s.titleBlock()
	s.stations()
	s.handover()
	s.pictures(photos)
	return s.Output(w)
}

func (s *sheet) color(c rgb) { s.SetTextColor(c.r, c.g, c.b) }

func (s *sheet) font(family, style string, size float64, c rgb) {
	s.SetFont(family, style, size)
	s.color(c)
}

// edge draws the frame of every page.
func (s *sheet) edge() {
	s.SetDrawColor(ink.r, ink.g, ink.b)
	s.SetLineWidth(0.5)
	s.Rect(frame, frame, pageW-2*frame, pageH-2*frame, "D")
	s.SetXY(inner, inner-1)
}

func (s *sheet) footer() {
	s.font("mono", "", 6.5, quiet)
	s.SetXY(inner, pageH-frame-5)
	s.CellFormat(textW-20, 4, "record "+s.rec.Rebuild.Head.Hash, "", 0, "L", false, 0, "")
	s.CellFormat(20, 4, fmt.Sprintf("%d / {pages}", s.PageNo()), "", 0, "R", false, 0, "")
}

// titleBlock is the block of a drawing: what it is, of whom, by whom.
func (s *sheet) titleBlock() {
	r := s.rec.Rebuild
	top := frame
	s.SetLineWidth(0.5)
	s.Line(frame, top+blockH, pageW-frame, top+blockH)
	s.font("mono", "", 26, ink)
	s.SetXY(inner, top+5)
	s.CellFormat(60, 11, r.Number, "", 0, "L", false, 0, "")
	s.font("barlow", "B", 15, ink)
	s.SetXY(inner+62, top+4.5)
	s.CellFormat(textW-62, 7, r.Unit.Name+", "+r.Vehicle.Name, "", 2, "L", false, 0, "")
	s.font("barlow", "", 10.5, quiet)
	s.CellFormat(textW-62, 5.5, r.Vehicle.Owner+" · serial "+r.Unit.Serial, "", 0, "L", false, 0, "")
	rows := [][2]string{
		{"complaint", r.Complaint}, {"came in", day(r.OpenedAt) + ", " + orDash(r.Odometer)}, {"promised", r.Promised},
		{"worked to", s.rec.Sheet}, {"signed", s.signature()},
	}
	s.SetLineWidth(0.2)
	s.SetDrawColor(hair.r, hair.g, hair.b)
	y := top + 20.0
	for _, row := range rows {
		s.Line(inner, y, pageW-inner, y)
		s.font("barlow", "", 8.5, quiet)
		s.SetXY(inner, y+0.6)
		s.CellFormat(24, 5, row[0], "", 0, "L", false, 0, "")
		s.font("barlow", "", 9.5, ink)
		s.CellFormat(textW-24, 5, s.cut(row[1], textW-24), "", 0, "L", false, 0, "")
		y += 6.1
	}
	s.SetY(top + blockH + 5)
}

func (s *sheet) signature() string {
	if s.rec.SignedAt == nil {
		return "not signed: the work is not finished"
	}
	return s.rec.SignedBy + ", lead, " + s.rec.SignedAt.Format("2006-01-02 15:04")
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
		s.Line(frame, y, inner+textW, y)
		s.font("barlow", "B", 12, ink)
		s.SetXY(inner, y+1)
		s.CellFormat(textW, 7, st.Title, "", 1, "L", false, 0, "")
		for _, step := range st.Steps {
			if len(step.Lines) > 0 {
				s.step(step)
			}
		}
		s.Ln(3)
	}
}

func worked(st workshop.RecordStation) bool {
	for _, step := range st.Steps {
		if len(step.Lines) > 0 {
			return true
		}
	}
	return false
}

func (s *sheet) step(step workshop.RecordStep) {
	s.room(11)
	s.font("barlow", "B", 10, blue)
	s.SetX(inner)
	s.CellFormat(textW, 5.5, step.Title, "", 1, "L", false, 0, "")
	for _, line := range step.Lines {
		s.line(line)
	}
	s.Ln(1)
}

// line prints one entry: the words, its verdict as shape and word, who, when.
func (s *sheet) line(l workshop.RecordLine) {
	const whoW, verdictW, indent = 46.0, 22.0, 4.0
	wordsW := textW - whoW - verdictW - indent
	c := ink
	if l.Struck {
		c = quiet
	}
	s.font("barlow", "", 9.2, c)
	rows := s.SplitText(l.Says, wordsW)
	s.room(float64(len(rows)) * 4.4)
	y := s.GetY()
	for i, row := range rows {
		s.SetXY(inner+indent, y+float64(i)*4.4)
		s.CellFormat(wordsW, 4.4, row, "", 0, "L", false, 0, "")
		if l.Struck {
			s.SetDrawColor(quiet.r, quiet.g, quiet.b)
			s.SetLineWidth(0.25)
			s.Line(inner+indent+1, y+float64(i)*4.4+2.3, inner+indent+1+s.GetStringWidth(row), y+float64(i)*4.4+2.3)
		}
	}
	if !l.Struck {
		s.verdict(inner+indent+wordsW, y, l.Verdict)
	}
	s.font("barlow", "", 7.6, quiet)
	s.SetXY(inner+textW-whoW, y)
	s.CellFormat(whoW, 4.4, l.By+" · "+l.At.Format("02 Jan 15:04"), "", 0, "R", false, 0, "")
	s.SetXY(inner, y+float64(len(rows))*4.4)
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
		s.Polygon([]fpdf.PointType{{X: cx, Y: cy - 1.7}, {X: cx + 1.7, Y: cy}, {X: cx, Y: cy + 1.7}, {X: cx - 1.7, Y: cy}}, "F")
	default:
		return
	}
	s.font("barlow", "B", 8.5, c)
	s.SetXY(x+4.5, y)
	s.CellFormat(16, 4.4, string(v), "", 0, "L", false, 0, "")
}

func (s *sheet) fill(c rgb) { s.SetFillColor(c.r, c.g, c.b) }

// handover prints what the customer takes home.
func (s *sheet) handover() {
	if len(s.rec.Handover) == 0 {
		return
	}
	s.room(14 + 6*float64(len(s.rec.Handover)))
	y := s.GetY() + 2
	s.SetDrawColor(blue.r, blue.g, blue.b)
	s.SetLineWidth(0.5)
	s.font("barlow", "B", 12, blue)
	s.SetXY(inner+4, y)
	s.CellFormat(textW, 7, "Running in", "", 1, "L", false, 0, "")
	s.font("barlow", "", 10.5, ink)
	for i, text := range s.rec.Handover {
		s.SetX(inner + 4)
		s.MultiCell(textW-4, 5.2, fmt.Sprintf("%d.  %s", i+1, text), "", "L", false)
	}
	s.Line(inner, y, inner, s.GetY())
	s.font("barlow", "", 8, quiet)
	s.SetX(inner + 4)
	s.MultiCell(textW-4, 5, "This record says what was found, measured and done. It is no promise that the vehicle is safe; road approval follows local rules.", "", "L", false)
}

// pictures prints the photographs two by two.
func (s *sheet) pictures(photos []workshop.Photo) {
	const w, gap = 86.0, 6.0
	column := 0
	rowH := 0.0
	for i, p := range photos {
		h := w * float64(p.Height) / float64(p.Width)
		if h > 110 {
			h = 110
		}
		if column == 0 {
			s.room(h + 8)
			rowH = h
		}
		name := fmt.Sprintf("photo%d", i)
		s.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: strings.TrimPrefix(p.Type, "image/")}, bytes.NewReader(p.Bytes))
		s.ImageOptions(name, inner+float64(column)*(w+gap), s.GetY()+4, 0, h, false, fpdf.ImageOptions{}, 0, "")
		rowH = max(rowH, h)
		column = (column + 1) % 2
		if column == 0 || i == len(photos)-1 {
			s.SetY(s.GetY() + rowH + 6)
		}
	}
}

// room begins a new page when less than h is left.
func (s *sheet) room(h float64) {
	if s.GetY()+h > pageH-foot-2 {
		s.AddPage()
	}
}

// cut shortens a text to a width.
func (s *sheet) cut(text string, w float64) string {
	if s.GetStringWidth(text) <= w {
		return text
	}
	runes := []rune(text)
	for len(runes) > 0 && s.GetStringWidth(string(runes)+"…") > w {
		runes = runes[:len(runes)-1]
	}
	return string(runes) + "…"
}

func day(t time.Time) string { return t.Format(time.DateOnly) }

func orDash(s string) string {
	if s == "" {
		return "–"
	}
	return s
}
