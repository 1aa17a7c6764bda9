package report

import (
	"bytes"
	"fmt"
	"iter"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"handwerk/workshop"
	"handwerk/workshop/say"
)

// maxPictures bounds what one print holds; it is made in memory.
const maxPictures = 48 << 20

// pictures prints the photographs two by two.
func (s *sheet) pictures(photos iter.Seq2[workshop.Photo, error]) error {
	const w, gap, tallest = 86.0, 6.0, 110.0
	column, rowH, bytesSoFar, left := 0, 0.0, 0, 0
	captions := s.captions()
	number := 0
	for p, err := range photos {
		if err != nil {
			return err
		}
		if bytesSoFar += len(p.Bytes); bytesSoFar > maxPictures {
			left++
			continue
		}
		h := min(w*float64(p.Height)/float64(max(p.Width, 1)), tallest)
		if column == 0 {
			s.room(h + 14)
			rowH = h
		} else if s.GetY()+h+14 > s.pageH-foot-2 {
			s.SetY(s.GetY() + rowH + 12)
			s.room(h + 14)
			column, rowH = 0, h
		}
		name := fmt.Sprintf("photo%d", number)
		number++
		s.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: strings.TrimPrefix(p.Type, "image/")},
			bytes.NewReader(p.Bytes))
		s.ImageOptions(name, inner+float64(column)*(w+gap), s.GetY()+4, 0, h, false, fpdf.ImageOptions{}, 0, "")
		s.caption(inner+float64(column)*(w+gap), s.GetY()+5+h, w, captions[p.ID])
		rowH = max(rowH, h)
		if column = (column + 1) % 2; column == 0 {
			s.SetY(s.GetY() + rowH + 12)
		}
	}
	if column == 1 {
		s.SetY(s.GetY() + rowH + 12)
	}
	if left > 0 {
		s.font("barlow", 9.2, quiet)
		s.text(0, s.textW, 4.6, fmt.Sprintf("%d more pictures are in the archive of this rebuild.",
			left), nil)
	}
	return s.Error()
}

// captions say of each picture at which step it was taken, of what, and when.
func (s *sheet) captions() map[string]string {
	says := map[string]string{}
	for _, st := range s.rec.Stations {
		for _, step := range st.Steps {
			for _, l := range step.Lines {
				if l.Photo != "" {
					says[l.Photo] = joined(": ", step.Title, l.Paper) + ", " + say.Moment(l.At, s.zone)
				}
			}
		}
	}
	return says
}

// caption stands below a picture, two rows at most.
func (s *sheet) caption(x, y, w float64, says string) {
	s.font("barlow", 8, quiet)
	rows := s.wrap(says, w)
	for i, row := range rows[:min(len(rows), 2)] {
		s.print(x, y+float64(i)*3.6, 3.6, row)
	}
}
