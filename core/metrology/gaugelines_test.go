package metrology

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"handwerk/core/input"
	"handwerk/core/quantity"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The grammar, line by line.
func TestALineOfAGauge(t *testing.T) {
	t.Parallel()
	mm := quantity.Named("mm")
	for line, want := range map[string]string{
		"+0.123 mm":              "0.123 mm step 0.001",
		"0.0048 in":              "0.0048 in step 0.0001",
		"12.5 N·m":               "12.5 N·m step 0.1",
		"− 0,25mm":               "-0.25 mm step 0.01",
		"-.5 mm":                 "-0.5 mm step 0.1",
		"1.5e-1 mm ok":           "0.15 mm step 0.01 ok",
		"3 N m low-battery":      "3 N·m step 1 low-battery",
		"2 IN hold t=0.25":       "2 in step 1 hold t 0.25",
		"7 Nm\tt=.5":             "7 N·m step 1 t 0.5",
		"1,234 mm":               "1.234 mm step 0.001",
		"0.1 mm over":            "over",
		"0.1 mm under":           "under",
		"T":                      "turned",
		"":                       "nothing",
		"  ":                     "nothing",
		"0.12":                   "rubbish",
		"5. mm":                  "rubbish",
		"1.234,5 mm":             "rubbish",
		"1 234 mm":               "rubbish",
		"0.1 furlong":            "rubbish",
		"0.1 mm t=1":             "rubbish",
		"0.1 mm t=-0.1":          "rubbish",
		"0.1 mm maybe":           "rubbish",
		"٣ mm":                   "rubbish",
		"t":                      "rubbish",
		"1e400 mm":               "rubbish",
		strings.Repeat("1", 129): "rubbish",
	} {
		assert.Equal(t, want, saidLine(ReadGaugeLine(line, nil)), "%q", line)
	}
	assert.Equal(
		t,
		"0.12 mm step 0.01",
		saidLine(ReadGaugeLine("0.12", mm)),
		"a bare number has the unit that is given",
	)
	assert.Equal(t, "0.12 in step 0.01", saidLine(ReadGaugeLine("0.12 in", mm)), "another unit of its kind")
	assert.Equal(t, "rubbish", saidLine(ReadGaugeLine("0.12 N·m", mm)), "another dimension")
}

func saidLine(l GaugeLine) string {
	switch l.Kind {
	case NoLine:
		return "nothing"
	case Turned:
		return "turned"
	case Over:
		return "over"
	case Under:
		return "under"
	case Rubbish:
		return "rubbish"
	}
	said := fmt.Sprintf("%s step %g", l.Value, l.Step)
	if l.Status != "" {
		said += " " + l.Status
	}
	if l.Turn != nil {
		said += fmt.Sprintf(" t %g", *l.Turn)
	}
	return said
}

func TestALineIsReadInAnyEnding(t *testing.T) {
	t.Parallel()
	out, err := GaugeLines(GaugeLinesIn{Text: "0.1 mm\r\nT\r0.2 mm\n\n9 mm over\nrats\n0.3 N·m\n"})
	require.NoError(t, err)
	assert.Len(t, out.Readings, 2)
	assert.Equal(t, []int{1, 3}, []int{out.Readings[0].Line, out.Readings[1].Line})
	assert.Equal(t, 1, out.Turns)
	assert.Equal(t, 1, out.Over)
	assert.Equal(t, RubbishLines{2, 6}, out.Rubbish, "rubbish, and another dimension than the first reading")
	assert.Empty(t, out.Settled, "without moments nothing comes to rest")
}

// A shape of a stream: what a hand does at the plunger, in thousandths of a millimetre.
func shape(rate float64, seconds float64, at func(s float64) float64) (lines []TimedLine) {
	for i := 0; float64(i)/rate <= seconds; i++ {
		s := float64(i) / rate
		lines = append(lines, TimedLine{s, fmt.Sprintf("%+.3f mm", at(s)/1000)})
	}
	return lines
}

// Shapes as they come from a dial: a plunger that is set down and swings in, one
// that creeps, one that trembles, one that slips, one that turns with a shaft.
func TestAStreamComesToRest(t *testing.T) {
	t.Parallel()
	swing := func(s float64) float64 { return 500 + 300*math.Exp(-6*s)*math.Cos(25*s) }
	for name, tt := range map[string]struct {
		lines  []TimedLine
		rests  []float64 // values in thousandths
		within float64
	}{
		"set down and swinging in":      {shape(50, 3, swing), []float64{500}, 1.5},
		"at rest from the first moment": {shape(50, 2, func(float64) float64 { return 120 }), []float64{120}, 0},
		"creeping ten steps a second":   {shape(50, 3, func(s float64) float64 { return 10 * s }), nil, 0},
		"trembling by five steps":       {shape(50, 3, func(s float64) float64 { return 2.5 * math.Sin(40*s) }), nil, 0},
		"a slip and rest again": {shape(50, 3, func(s float64) float64 {
			if s < 1.5 {
				return 100
			}
			return 130
		}), []float64{100, 130}, 0},
		"a jump and back within two steps": {shape(50, 3, func(s float64) float64 {
			if s > 1 && s < 1.1 {
				return 102
			}
			return 100
		}), []float64{100}, 0},
		// What turns seems at rest where it turns back: such a stream is followed by its turn marks instead.
		"turning with a shaft": {shape(50, 4, func(s float64) float64 { return 50 * math.Sin(2*math.Pi*s/4) }),
			[]float64{50, -50}, 1.5},
		"too few to tell":     {shape(8, 3, func(float64) float64 { return 100 }), nil, 0},
		"five in four tenths": {shape(10, 3, func(float64) float64 { return 100 }), []float64{100}, 0},
	} {
		out, err := GaugeLines(GaugeLinesIn{Lines: tt.lines})
		require.NoError(t, err, name)
		if assert.Len(t, out.Settled, len(tt.rests), name) {
			for i, v := range tt.rests {
				assert.InDelta(t, v/1000, out.Settled[i].Value.Value, tt.within/1000+1e-9, name)
			}
		}
	}
}

// Against the words of the rule, over the whole stream and from nothing each time.
func TestRestIsWhatTheRuleSays(t *testing.T) {
	t.Parallel()
	r := rand.New(rand.NewPCG(5, 6))
	rested := 0
	for range 40 {
		s := Settler{Resolution: 1}
		var at, v float64
		var all []timed
		resting, value := false, 0.0
		for range 400 {
			at += 0.01 + 0.05*r.Float64()
			if r.IntN(60) == 0 {
				v += float64(r.IntN(20)) - 10
			}
			all = append(all, timed{at, v + float64(r.IntN(2))})
			got, is := s.Take(at, all[len(all)-1].value)
			var window []timed
			for _, x := range all {
				if at-x.at <= 0.4 {
					window = append(window, x)
				}
			}
			if resting && math.Abs(all[len(all)-1].value-value) > 2 {
				resting = false
			}
			want := !resting && at-all[0].at >= 0.4 && len(window) >= 5 && isAtRest(window)
			require.Equal(t, want, is, "at %v", at)
			if is {
				resting, value = true, got.Value
				require.Equal(t, len(window), got.N)
				rested++
			}
		}
	}
	assert.Greater(t, rested, 100)
}

// isAtRest by the textbook's least squares: slope = (nΣtv - ΣtΣv)/(nΣt² - (Σt)²).
func isAtRest(window []timed) bool {
	var n, st, sv, stt, stv float64
	least, most := math.Inf(1), math.Inf(-1)
	for _, x := range window {
		n, st, sv, stt, stv = n+1, st+x.at, sv+x.value, stt+x.at*x.at, stv+x.at*x.value
		least, most = min(least, x.value), max(most, x.value)
	}
	return most-least <= 2 && math.Abs((n*stv-st*sv)/(n*stt-st*st)) < 1
}

func TestGaugeLinesNameTheBadField(t *testing.T) {
	t.Parallel()
	for in, says := range map[string]string{
		`{"text": "1 mm", "lines": [{"at": 0, "text": "1 mm"}]}`:              "lines:",
		`{"text": "1 mm", "unit": "furlong"}`:                                 "unit:",
		`{"text": "1 mm", "unit": "mm", "resolution": "1 N·m"}`:               "resolution:",
		`{"text": "1 mm", "resolution": "0 mm"}`:                              "resolution:",
		`{"lines": [{"at": 1, "text": "1 mm"}, {"at": 0.5, "text": "1 mm"}]}`: "lines[1].at:",
	} {
		var said GaugeLinesIn
		require.NoError(t, input.Decode([]byte(in), &said), in)
		_, err := GaugeLines(said)
		require.ErrorContains(t, err, says, in)
	}
}

// Whatever comes, a line is a reading that can be, or is not one.
func FuzzReadGaugeLine(f *testing.F) {
	for _, seed := range []string{"+0.123 mm", "0,5 in hold t=0.1", "T", "1e9 mm", "over", "-.1 N m", "\x00\xff"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, line string) {
		got := ReadGaugeLine(line, nil)
		if got.Kind == Reading && (math.IsNaN(got.Value.Value) || math.Abs(got.Value.Value) > 1e9 || got.Step <= 0 ||
			got.Value.Unit == nil) {
			t.Fatalf("%q: %+v", line, got)
		}
	})
}

func BenchmarkSettle(b *testing.B) {
	s := Settler{Resolution: 0.001}
	at := 0.0
	for b.Loop() {
		at += 0.001
		s.Take(at, math.Sin(at))
	}
}
