package report

import (
	"fmt"
	"io"
	"strings"

	"codeberg.org/go-pdf/fpdf"
	"github.com/boombuler/barcode/qr"

	"handwerk/workshop/paper"
	"handwerk/workshop/record"
)

// LabelPaper is what tray labels are printed on, in millimetres.
type LabelPaper struct {
	Name           string
	pageW, pageH   float64
	labelW, labelH float64
	columns, rows  int
	left, top      float64
}

// LabelPapers are the sheets and the roll: A4 with 3 by 8 labels, Letter with 3
// by 7, and a roll of 62 mm with one label after the other.
var LabelPapers = []LabelPaper{
	{"A4", 210, 297, 70, 37, 3, 8, 0, 0.5},
	{"Letter", 215.9, 279.4, 71.9, 39.9, 3, 7, 0, 0},
	{"roll", 62, 40, 62, 40, 1, 1, 0, 0},
}

// WriteTrayLabels prints a label for each tray: the rebuild's number, the
// tray's name, its first parts, and a code that opens it.
func WriteTrayLabels(w io.Writer, r record.Rebuild, trays []paper.Tray, paper LabelPaper,
	link func(tray string) string) error {
	all, err := faces()
	if err != nil {
		return err
	}
	s := &sheet{pen: pen{Fpdf: fpdf.NewCustom(&fpdf.InitType{UnitStr: "mm",
		Size: fpdf.SizeType{Wd: paper.pageW, Ht: paper.pageH}}), faces: all}}
	s.SetCatalogSort(true)
	s.SetCreationDate(r.OpenedAt)
	s.SetModificationDate(r.OpenedAt)
	s.SetTitle("Trays of "+r.Number, true)
	s.SetCreator("Handwerk", true)
	register(s.Fpdf, all)
	s.SetMargins(0, 0, 0)
	s.SetAutoPageBreak(false, 0)
	page := paper.columns * paper.rows
	for i, t := range trays {
		if i%page == 0 {
			s.AddPage()
		}
		x := paper.left + float64(i%page%paper.columns)*paper.labelW
		y := paper.top + float64(i%page/paper.columns)*paper.labelH
		if err := s.label(x, y, paper, r, t, link(t.Name)); err != nil {
			return err
		}
	}
	if len(trays) == 0 {
		s.AddPage()
	}
	return s.Output(w)
}

// label prints one: the code at the right, the words beside it.
func (s *sheet) label(x, y float64, paper LabelPaper, r record.Rebuild, t paper.Tray, link string) error {
	code := paper.labelH - 12
	if err := s.code(x+paper.labelW-code-4, y+4, code, link); err != nil {
		return err
	}
	width := paper.labelW - code - 12
	s.font("mono", 9, quiet)
	s.print(x+4, y+4, 4.5, r.Number)
	s.font("barlowB", 15, ink)
	s.print(x+4, y+9, 7, s.short(trayName(t), width))
	s.font("barlow", 8.5, ink)
	var names []string
	for _, p := range t.Parts {
		names = append(names, p.Name)
	}
	const most = 4
	for i, name := range names[:min(len(names), most)] {
		if i == most-1 && len(names) > most {
			name = fmt.Sprintf("and %d more", len(names)-most+1)
		}
		s.print(x+4, y+17+float64(i)*3.8, 3.8, s.short(name, width))
	}
	s.font("barlow", 7.5, quiet)
	s.print(x+4, y+paper.labelH-5.5, 3.5, s.short(r.Unit.Name, paper.labelW-8))
	return nil
}

func trayName(t paper.Tray) string {
	if t.Name == "" {
		return "No tray recorded"
	}
	return t.Name
}

// short cuts a text to a width; a label has one line for each.
func (s *pen) short(text string, width float64) string {
	text = strings.Join(strings.Fields(text), " ")
	if s.width(text) <= width {
		return text
	}
	letters := []rune(text)
	for len(letters) > 1 && s.width(string(letters)+"…") > width {
		letters = letters[:len(letters)-1]
	}
	return string(letters) + "…"
}

// code draws a QR code of ISO/IEC 18004 with a quarter of it to spare: trays
// get oily.
func (s *sheet) code(x, y, size float64, text string) error {
	c, err := qr.Encode(text, qr.Q, qr.Auto)
	if err != nil {
		return fmt.Errorf("the label's code: %w", err)
	}
	n := c.Bounds().Dx()
	cell := size / float64(n)
	s.fill(rgb{0, 0, 0})
	for row := range n {
		for from := 0; from < n; {
			to := from
			for to < n && isDark(c.At(to, row).RGBA()) {
				to++
			}
			if to > from {
				s.Rect(x+float64(from)*cell, y+float64(row)*cell, float64(to-from)*cell, cell, "F")
			}
			from = max(to, from+1)
		}
	}
	return nil
}

func isDark(r, _, _, _ uint32) bool { return r < 0x8000 }
