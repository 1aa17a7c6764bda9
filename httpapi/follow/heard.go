package follow

import (
	"fmt"
	"math"
	"strconv"
	"time"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
)

// State of a gauge's line.
type State string

// A gauge that is called, one that speaks, one that keeps still, one that is gone.
const (
	Calling State = "calling"
	Alive   State = "alive"
	Silent  State = "silent"
	Lost    State = "lost"
)

// Heard is what came from a gauge since the last telling.
type Heard struct {
	State    State    `json:"state" enum:"calling,alive,silent,lost"`
	Says     string   `json:"says,omitempty"`     // what is wrong with it, in words
	Readings []Value  `json:"readings,omitempty"` // oldest first
	Settled  *Value   `json:"settled,omitempty"`  // it has come to rest at
	Circle   []Placed `json:"circle,omitempty"`   // a whole turn that was followed
	Missed   int      `json:"missed,omitempty"`   // readings that came too fast to be passed on
}

// Value is a reading as a hand would type it, and its figure for a drawing.
type Value struct {
	Text  string  `json:"text"`
	Value float64 `json:"value"` // in the unit that the text says
}

// Placed is a reading of a whole turn, at its clock position: 12 is the mark.
type Placed struct {
	Clock   float64 `json:"clock"`
	Reading string  `json:"reading"`
}

// What one telling may hold.
const (
	every       = 50 * time.Millisecond
	mostATime   = 50      // readings of a telling: a thousand a second
	rubbishSaid = 20      // lines of rubbish in a row before it is said
	endless     = 4 << 10 // bytes without a line end
)

// ear makes of lines what is told; it belongs to one line and one goroutine.
type ear struct {
	bare    *quantity.Unit
	settler metrology.Settler
	turn    metrology.TurnFollower
	heard   Heard
	rubbish int // in a row
	decimal int // of the gauge's resolution
}

func newEar(resolution quantity.Any) *ear {
	return &ear{
		bare:    resolution.Unit,
		settler: metrology.Settler{Resolution: resolution.Value},
		decimal: decimals(resolution.Value),
	}
}

// decimals of a figure that steps so.
func decimals(step float64) int {
	if step <= 0 {
		return 3
	}
	return max(0, min(6, int(math.Ceil(-math.Log10(step)-1e-9))))
}

// take hears one line at a moment, in seconds.
func (e *ear) take(at float64, text string) {
	line := metrology.ReadGaugeLine(text, e.bare)
	switch line.Kind {
	case metrology.NoLine:
		return
	case metrology.Rubbish:
		e.notRead(text)
		return
	case metrology.Over, metrology.Under:
		e.settler.Break()
		e.heard.Says = "beyond what the gauge can show"
		return
	case metrology.Turned:
		e.circle(e.turn.Mark(at))
	case metrology.Reading:
		e.reading(at, line)
	}
	e.rubbish = 0
}

func (e *ear) reading(at float64, line metrology.GaugeLine) {
	unit := e.bare
	si := quantity.Magnitude(line.Value.SI())
	value := quantity.Say(si, unit).Value
	part := math.NaN()
	if line.Turn != nil {
		part = *line.Turn
	}
	e.circle(e.turn.Take(at, value, part))
	if rest, is := e.settler.Take(at, value); is {
		settled := e.value(rest.Value)
		e.heard.Settled = &settled
	}
	if len(e.heard.Readings) == mostATime {
		e.heard.Missed++
		return
	}
	e.heard.Readings = append(e.heard.Readings, e.value(value))
	if line.Status == "low-battery" {
		e.heard.Says = "its battery is low"
	}
}

func (e *ear) value(v float64) Value {
	text := strconv.FormatFloat(v, 'f', e.decimal+1, 64)
	return Value{Text: trimmed(text, e.decimal) + " " + e.bare.Symbol, Value: v}
}

// trimmed drops the decimal beyond the resolution where it is nought.
func trimmed(text string, decimal int) string {
	if text[len(text)-1] != '0' {
		return text
	}
	text = text[:len(text)-1]
	if decimal == 0 {
		text = text[:len(text)-1]
	}
	return text
}

// circle keeps a whole turn: 12 is the mark, clockwise as the gauge counts.
func (e *ear) circle(turn []metrology.TurnPoint, is bool) {
	if !is {
		return
	}
	e.heard.Circle = nil
	for _, p := range turn {
		clock := math.Mod(p.Part*12, 12)
		if clock == 0 {
			clock = 12
		}
		e.heard.Circle = append(e.heard.Circle, Placed{clock, e.value(p.Value).Text})
	}
}

// notRead counts what is no reading; a run of it is said, with what to check.
func (e *ear) notRead(text string) {
	if e.rubbish++; e.rubbish < rubbishSaid {
		return
	}
	other := metrology.ReadGaugeLine(text, nil)
	if other.Kind == metrology.Reading {
		e.heard.Says = fmt.Sprintf("it sends %s, and this gauge reads %s: check which gauge is on the cable",
			other.Value.Unit.Symbol, e.bare.Symbol)
		return
	}
	e.heard.Says = noReadings
}

const noReadings = "what it sends is no reading: check its output format and the adapter's speed"

// tell takes what was heard since the last time; false when there is nothing.
func (e *ear) tell() (Heard, bool) {
	h := e.heard
	if h.Missed > 0 && h.Says == "" {
		h.Says = fmt.Sprintf(
			"it sends more than %d readings a second; the rest is passed over",
			mostATime*int(time.Second/every),
		)
	}
	e.heard = Heard{}
	h.State = Alive
	return h, len(h.Readings) > 0 || h.Says != "" || h.Circle != nil || h.Settled != nil
}

// broke forgets what the line was in the middle of.
func (e *ear) broke() {
	e.settler.Break()
	e.turn.Break()
	e.rubbish = 0
}
