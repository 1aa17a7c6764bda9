package report

import (
	_ "embed"
	"strings"
	"unicode"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/gomono"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/sfnt"
)

//go:embed fonts/barlow-400.ttf
var barlow []byte

//go:embed fonts/barlow-600.ttf
var barlowBold []byte

//go:embed fonts/jetbrains-mono-500.ttf
var mono []byte

// face is a font of ours with the one that stands in where it lacks a
// character: the Go fonts have Latin, Greek and Cyrillic whole.
type face struct {
	family, style    string
	own, other       *sfnt.Font
	ownRaw, otherRaw []byte
	stoodIn          bool // the other font is in the print
}

// faces of the print, by family and style.
func faces() (map[string]*face, error) {
	all := map[string]*face{
		"barlow":  {family: "barlow", ownRaw: barlow, otherRaw: goregular.TTF},
		"barlowB": {family: "barlow", style: "B", ownRaw: barlowBold, otherRaw: gobold.TTF},
		"mono":    {family: "mono", ownRaw: mono, otherRaw: gomono.TTF},
	}
	for _, f := range all {
		var err error
		if f.own, err = sfnt.Parse(f.ownRaw); err != nil {
			return nil, err
		}
		if f.other, err = sfnt.Parse(f.otherRaw); err != nil {
			return nil, err
		}
	}
	return all, nil
}

func register(pdf *fpdf.Fpdf, all map[string]*face) {
	for _, name := range []string{"barlow", "barlowB", "mono"} {
		pdf.AddUTF8FontFromBytes(all[name].family, all[name].style, all[name].ownRaw)
	}
}

// mark stands for a character that no font here has, so that it is seen that
// something stands there.
const mark = '□'

// run is a stretch of text in one font.
type run struct {
	text  string
	other bool
}

// runs parts a text by the font that has its characters.
func (f *face) runs(text string) []run {
	var list []run
	var b strings.Builder
	other := false
	flush := func() {
		if b.Len() > 0 {
			list = append(list, run{b.String(), other})
			b.Reset()
		}
	}
	var buffer sfnt.Buffer
	has := func(font *sfnt.Font, r rune) bool {
		i, err := font.GlyphIndex(&buffer, r)
		return err == nil && i != 0
	}
	for _, r := range text {
		switch {
		case r == '\t':
			r = ' '
		case r == '\u200d' || unicode.Is(unicode.Mn, r) && !has(f.own, r) && !has(f.other, r):
			continue // joins or adorns the character before it, which says enough
		}
		// The PDF library counts widths up to U+FFFF; neither font goes beyond.
		in := r <= 0xFFFF && has(f.own, r)
		if !in && (r > 0xFFFF || !has(f.other, r)) {
			r = mark
		}
		if in == other {
			flush()
			other = !in
		}
		b.WriteRune(r)
	}
	flush()
	return list
}

// pen writes on a page: in one face at a time, each character in a font that has it.
type pen struct {
	*fpdf.Fpdf
	faces map[string]*face
	face  *face
	size  float64
}

// width of a text as it will be printed.
func (s *pen) width(text string) float64 {
	w := 0.0
	for _, r := range s.face.runs(text) {
		s.use(r.other)
		w += s.GetStringWidth(r.text)
	}
	return w
}

// use takes the face's own font, or the one that stands in.
func (s *pen) use(other bool) {
	family := s.face.family
	if other {
		family += "-other"
		if !s.face.stoodIn { // only where it is needed: most prints are the smaller for it
			s.AddUTF8FontFromBytes(family, s.face.style, s.face.otherRaw)
			s.face.stoodIn = true
		}
	}
	s.SetFont(family, s.face.style, s.size)
}

// print writes one row at a place and gives its width.
func (s *pen) print(x, y, height float64, text string) float64 {
	at := x
	for _, r := range s.face.runs(text) {
		s.use(r.other)
		w := s.GetStringWidth(r.text)
		s.SetXY(at, y)
		s.CellFormat(w, height, r.text, "", 0, "L", false, 0, "")
		at += w
	}
	return at - x
}

// printRight writes one row that ends at a place.
func (s *pen) printRight(right, y, height float64, text string) {
	s.print(right-s.width(text), y, height, text)
}

// wrap parts a text into rows no wider than w, at blanks where there are any.
func (s *pen) wrap(text string, w float64) []string {
	w -= 2 * s.GetCellMargin()
	var rows []string
	for _, line := range strings.Split(strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n"), "\n") {
		row := ""
		for _, word := range strings.SplitAfter(line, " ") {
			if s.width(strings.TrimRight(row+word, " ")) <= w {
				row += word
				continue
			}
			if row != "" {
				rows = append(rows, row)
			}
			row = word
			for s.width(strings.TrimRight(row, " ")) > w {
				n := s.fitting(row, w)
				rows = append(rows, string([]rune(row)[:n]))
				row = string([]rune(row)[n:])
			}
		}
		rows = append(rows, row)
	}
	return rows
}

// fitting is how many characters of a word fit, one at least.
func (s *pen) fitting(word string, w float64) int {
	runes := []rune(word)
	low, high := 1, len(runes)
	for low < high {
		middle := (low + high + 1) / 2
		if s.width(string(runes[:middle])) <= w {
			low = middle
		} else {
			high = middle - 1
		}
	}
	return low
}
