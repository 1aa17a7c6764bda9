package metrology

import (
	"fmt"
	"math"
	"strings"

	"handwerk/core/calculator"
	"handwerk/core/input"
	"handwerk/core/quantity"
)

// TimedLine is a line and when it came, in seconds.
type TimedLine struct {
	At   float64 `json:"at"`
	Text string  `json:"text"`
}

// GaugeLinesIn is what a gauge has sent: as one text, or line by line with the moments.
type GaugeLinesIn struct {
	Text       string       `json:"text,omitempty"`
	Lines      []TimedLine  `json:"lines,omitempty"`
	Unit       string       `json:"unit,omitempty"`      // of bare numbers, which are rubbish without it
	Resolution quantity.Any `json:"resolution,omitzero"` // missing: one in the last digit
}

// LineReading is a reading of the stream.
type LineReading struct {
	Line   int          `json:"line"` // from 1
	Value  quantity.Any `json:"value"`
	At     *float64     `json:"at,omitempty"` // seconds
	Status string       `json:"status,omitempty" enum:"ok,hold,low-battery"`
	Turn   *float64     `json:"turn,omitempty"` // part of a turn, 0 up to 1
}

// RubbishLines counts what could not be read.
type RubbishLines struct {
	Count int `json:"count"`
	First int `json:"first,omitempty"` // its line, from 1
}

// SettledValue is a moment at which the readings had come to rest.
type SettledValue struct {
	At    float64      `json:"at"`
	Value quantity.Any `json:"value"` // mean of the last 0.4 s
	N     int          `json:"n"`
}

// GaugeLinesOut is what the lines say.
type GaugeLinesOut struct {
	Readings []LineReading  `json:"readings"`
	Turns    int            `json:"turns"`   // marks of a whole turn
	Over     int            `json:"over"`    // lines beyond what the gauge can show
	Under    int            `json:"under"`   // and below it
	Rubbish  RubbishLines   `json:"rubbish"` // lines that could not be read
	Settled  []SettledValue `json:"settled"`
	Says     string         `json:"says"`
}

const maxTimedLines = 50_000

// GaugeLines reads a gauge's lines and finds where they came to rest; see
// ReadGaugeLine and Settler. Without moments nothing can come to rest.
func GaugeLines(in GaugeLinesIn) (GaugeLinesOut, error) {
	bare, err := in.check()
	if err != nil {
		return GaugeLinesOut{}, err
	}
	s := lineStream{
		bare: bare,
		said: in.Resolution,
		out:  GaugeLinesOut{Readings: []LineReading{}, Settled: []SettledValue{}},
	}
	for i, text := range splitLines(in.Text) {
		s.take(i+1, text, nil)
	}
	for i, l := range in.Lines {
		s.take(i+1, strings.TrimRight(l.Text, "\r\n"), &l.At)
	}
	s.out.Says = s.say()
	return s.out, nil
}

// GaugeLinesMethod is GaugeLines as the catalogue lists it.
var GaugeLinesMethod = calculator.Define(examples, calculator.About{
	Name:    "gauge-lines",
	Version: 1,
	Purpose: "what a gauge has sent line by line, and where its reading came to rest",
	Formula: "at rest: the last 0.4 s, five readings or more, within two steps and their least-squares slope below one step a second",
	Assumes: "a comma is a decimal mark as a point is; a bare number has the unit that is given; one dimension a stream",
	Sources: []string{"least squares", calculator.Practice},
}, GaugeLines)

// lineStream is the reading of a stream, line after line.
type lineStream struct {
	bare    *quantity.Unit
	said    quantity.Any // the resolution
	unit    *quantity.Unit
	settler Settler
	out     GaugeLinesOut
}

func (s *lineStream) take(number int, text string, at *float64) {
	line := ReadGaugeLine(text, s.bare)
	if line.Kind == Reading && s.unit != nil && line.Value.Unit.Dimension != s.unit.Dimension {
		line.Kind = Rubbish
	}
	switch line.Kind {
	case Turned:
		s.out.Turns++
	case Over:
		s.out.Over++
		s.settler.Break()
	case Under:
		s.out.Under++
		s.settler.Break()
	case Rubbish:
		if s.out.Rubbish.Count == 0 {
			s.out.Rubbish.First = number
		}
		s.out.Rubbish.Count++
	case Reading:
		if s.unit == nil {
			s.unit = line.Value.Unit
		}
		s.out.Readings = append(s.out.Readings,
			LineReading{Line: number, Value: line.Value, At: at, Status: line.Status, Turn: line.Turn})
		if at != nil {
			s.settle(*at, line)
		}
	}
}

// settle watches the readings in the unit of the first one.
func (s *lineStream) settle(at float64, line GaugeLine) {
	step := line.Step * line.Value.Unit.Factor / s.unit.Factor
	if s.said.IsSaid() {
		step = s.said.DifferenceSI() / s.unit.Factor
	}
	if s.settler.Resolution == 0 || step < s.settler.Resolution {
		s.settler.Resolution = step
	}
	value := quantity.Say(quantity.Magnitude(line.Value.SI()), s.unit).Value
	if rest, is := s.settler.Take(at, value); is {
		s.out.Settled = append(
			s.out.Settled,
			SettledValue{
				rest.At,
				quantity.SayDifference(quantity.Magnitude(rest.Value*s.unit.Factor), s.unit).Any,
				rest.N,
			},
		)
	}
}

func (s *lineStream) say() string {
	said := []string{fmt.Sprintf("%d readings", len(s.out.Readings))}
	if len(s.out.Readings) == 1 {
		said[0] = "1 reading"
	}
	for _, n := range []struct {
		count int
		what  string
	}{{s.out.Over + s.out.Under, "out of the gauge's range"}, {s.out.Rubbish.Count, "not read"}} {
		if n.count > 0 {
			said = append(said, fmt.Sprintf("%d %s", n.count, n.what))
		}
	}
	if n := len(s.out.Settled); n > 0 {
		last := s.out.Settled[n-1]
		said = append(said, "at rest last at "+last.Value.WithUncertainty(quantity.Any{}))
	}
	return strings.Join(said, ", ")
}

// splitLines parts a text at LF, CR LF and CR.
func splitLines(text string) []string {
	if text == "" {
		return nil
	}
	return strings.Split(strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n"), "\n")
}

func (in GaugeLinesIn) check() (*quantity.Unit, error) {
	var c input.Checks
	if in.Text != "" && len(in.Lines) > 0 {
		c.Add("lines", "text or lines, not both", "both are given")
	}
	if len(in.Lines) > maxTimedLines {
		c.Add("lines", fmt.Sprintf("up to %d lines", maxTimedLines), "%d lines", len(in.Lines))
	}
	var bare *quantity.Unit
	if in.Unit != "" {
		unit, known := quantity.UnitNamed(in.Unit)
		if !known {
			c.Add("unit", "a unit like mm, in, N·m", "%q is no unit", in.Unit)
		}
		bare = unit
	}
	if in.Resolution.IsSaid() {
		if v := in.Resolution.DifferenceSI(); !(v > 0) {
			c.Add("resolution", "more than 0", "%s cannot be", in.Resolution)
		}
		if bare != nil && in.Resolution.Unit.Dimension != bare.Dimension {
			c.Add("resolution", "a "+string(bare.Dimension)+", as the unit is", "%s is none", in.Resolution)
		}
	}
	for i, l := range in.Lines {
		if math.IsNaN(l.At) || math.Abs(l.At) > 1e9 || (i > 0 && l.At < in.Lines[i-1].At) {
			c.Add(input.Index("lines", i)+".at", "seconds, not before the line above", "%v comes before it", l.At)
			break
		}
	}
	return bare, c.Err()
}
