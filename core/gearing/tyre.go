// Package gearing turns ratios and tyres into road speeds, and meshing teeth
// and rolling elements into the frequencies one hears.
package gearing

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"handwerk/core/input"
	"handwerk/core/quantity"
)

// Length, Speed, Rotation are said quantities.
type (
	Length   = quantity.Said[quantity.Length]
	Speed    = quantity.Said[quantity.Speed]
	Rotation = quantity.Said[quantity.Rotation]
)

// Tyre as its side says, or as it was measured.
type Tyre struct {
	Size          string   `json:"size,omitempty"` // 205/55 R16 or 31x10.5 R15
	Circumference Length   `json:"circumference,omitzero"`
	Rolling       *float64 `json:"rolling_share,omitempty"` // of the free circumference, default 0.96
}

var (
	// Behind the size may stand load index and speed letter: 91V, 109/107Q.
	service    = `(?:\s+\(?\d{2,3}(?:/\d{2,3})?\s*[A-Z]\d?\)?)?(?:\s+XL)?$`
	metricTyre = regexp.MustCompile(
		`^(?:P|LT)?(\d{3})\s*/\s*(\d{2})\s*(?:[A-Z]{0,2}R|[BD-]|\s)\s*(\d{2}(?:\.\d)?)C?` + service,
	)
	inchTyre = regexp.MustCompile(
		`^(\d{2}(?:\.\d+)?)\s*[Xx×]\s*(\d{1,2}(?:\.\d+)?)\s*(?:R|-|\s)?\s*(\d{2}(?:\.\d)?)(?:LT)?` + service,
	)
	// 7.50-16: width and rim in inches, the side wall as high as it is wide.
	oldTyre = regexp.MustCompile(`^(\d{1,2}\.\d{1,2})\s*(?:-|R|\s)\s*(\d{2}(?:\.\d)?)C?(?:\s+\d{1,2}PR)?` + service)
)

// rollingShare: a loaded tyre rolls about 4 % less than its free
// circumference. Common practice; measure it where it matters.
const rollingShare = 0.96

// rolling is the distance of one turn: measured, or free diameter x 0.96 x π.
func (t Tyre) rolling(c *input.Checks, path string) (turn quantity.Length, assumed string) {
	if t.Circumference.IsSaid() {
		return input.Within(c, path+".circumference", t.Circumference, 300*quantity.Millimetre,
			7000*quantity.Millimetre, true), "measured"
	}
	share := input.Number(c, path+".rolling_share", input.OrNumber(t.Rolling, rollingShare), 0.85, 1)
	d := diameter(strings.ToUpper(strings.TrimSpace(t.Size)))
	if d < 300*quantity.Millimetre || d > 2200*quantity.Millimetre {
		c.Add(path+".size", "like 205/55 R16, 31x10.5 R15, 7.50-16, or a measured circumference",
			"%q is not a tyre that exists", t.Size)
		return 0, ""
	}
	return d * quantity.Length(share*math.Pi), "free diameter x " + strconv.FormatFloat(share, 'g', 4, 64) + " x π"
}

// IsTyreSize tells whether a size, as it stands on the wall, is read.
func IsTyreSize(size string) bool { return diameter(strings.ToUpper(strings.TrimSpace(size))) > 0 }

// diameter of a free tyre: rim and two side walls, or as written in inches.
func diameter(size string) quantity.Length {
	if m := metricTyre.FindStringSubmatch(size); m != nil {
		width, _ := strconv.ParseFloat(m[1], 64)
		aspect, _ := strconv.ParseFloat(m[2], 64)
		rim, _ := strconv.ParseFloat(m[3], 64)
		return quantity.Length(rim)*quantity.Inch + quantity.Length(2*width*aspect/100)*quantity.Millimetre
	}
	if m := inchTyre.FindStringSubmatch(size); m != nil {
		d, _ := strconv.ParseFloat(m[1], 64)
		rim, _ := strconv.ParseFloat(m[3], 64)
		if rim >= d {
			return 0
		}
		return quantity.Length(d) * quantity.Inch
	}
	if m := oldTyre.FindStringSubmatch(size); m != nil {
		width, _ := strconv.ParseFloat(m[1], 64)
		rim, _ := strconv.ParseFloat(m[2], 64)
		return quantity.Length(rim+2*oldAspect*width) * quantity.Inch
	}
	return 0
}

// oldAspect is the height of an old cross-ply's side wall over its width; sizes
// like 7.50-16 do not say it. Common practice: about as high as wide.
const oldAspect = 1.0
