package book_test

import (
	"encoding/json"
	"errors"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	. "handwerk/book"
	"handwerk/workshop/kinds"
)

// fixed is a Filler over a map; "none" has no value.
type fixed struct {
	values map[string]any
	trials int
	sparse bool
}

func (f fixed) Sparse() bool { return f.sparse }

func (f fixed) Trials() int { return f.trials }

func (f fixed) Value(s Source, trial int) (any, bool, error) {
	if s.Path[len(s.Path)-1] == "none" {
		return nil, false, nil
	}
	if s.Path[len(s.Path)-1] == "bad" {
		return nil, false, errors.New("cannot be had")
	}
	if s.String() == "entries.n" {
		return trial + 1, true, nil
	}
	return f.values[s.String()], true, nil
}

func TestTemplatesAreFilled(t *testing.T) {
	t.Parallel()
	f := fixed{map[string]any{"sheet.limits.x": "7 mm", "steps.a.b": 3}, 2, false}
	tests := []struct{ template, want string }{
		{`"sheet.limits.x"`, `"7 mm"`},
		{`"= text as it is"`, `"text as it is"`},
		{`12`, `12`},
		{`true`, `true`},
		{`{"u": "steps.a.b", "v": 0.5}`, `{"u": 3, "v": 0.5}`},
		{`["steps.a.b", "= x"]`, `[3, "x"]`},
		{`{"each_trial": {"n": "entries.n"}}`, `[{"n": 1}, {"n": 2}]`},
		{`"entries.n"`, `2`},
		{`{"u": "entries.none", "v": 1}`, `{"v": 1}`},
		{`["entries.none", 1]`, `[1]`},
	}
	for _, tt := range tests {
		in, err := Bind(map[string]Template{"x": Template(tt.template)}).Fill(f)
		require.NoError(t, err, tt.template)
		got, err := json.Marshal(in["x"])
		require.NoError(t, err)
		assert.JSONEq(t, tt.want, string(got), tt.template)
	}
	none, err := Bind(map[string]Template{"x": Template(`{"u": "refit.plan.none", "v": "refit.before.none"}`)}).Fill(f)
	require.NoError(t, err)
	assert.NotContains(t, none, "x", "nothing was refitted")
	f.sparse = true
	in, err := Bind(map[string]Template{"x": Template(
		`[{"gear": "= 1", "gap": "entries.n"}, {"gear": "= 5", "gap": "entries.none"}, {"gear": "= R"}]`)}).Fill(f)
	require.NoError(t, err)
	got, err := json.Marshal(in["x"])
	require.NoError(t, err)
	assert.JSONEq(t, `[{"gear": "1", "gap": 2}, {"gear": "R"}]`, string(got), "what nobody answered is no gear")
	in, err = Bind(map[string]Template{"gone": Template(`"entries.none"`), "here": Template(`1`)}).Fill(f)
	require.NoError(t, err)
	assert.NotContains(t, in, "gone", "an answer not given leaves its input away")
	_, err = Bind(map[string]Template{"x": Template(`{"u": ["entries.bad"]}`)}).Fill(f)
	assert.ErrorContains(t, err, "x.u[0]: cannot be had", "a fault says where")
}

func TestSourcesAreToldFromTexts(t *testing.T) {
	t.Parallel()
	bindings := Bind(
		map[string]Template{
			"x": Template(
				`{"a": "entries.readings", "b": ["sheet.figures.x", "nowhere"], "c": "= free", "d": "entries", "e": "sheet..x", "f": "drawer.x"}`,
			),
			"y": Template(`{`),
		},
	)
	var got []string
	for _, s := range bindings.All() {
		got = append(got, s.String())
	}
	assert.Equal(t, []string{"entries.readings", "sheet.figures.x"}, got)
	assert.Equal(t, map[string][]string{"x": {"nowhere", "entries", "sheet..x", "drawer.x"}, "y": {"{"}}, bindings.Bad)
}

// A template is kept as written: the stored plan is the same byte for byte.
func TestTemplatesKeepTheirText(t *testing.T) {
	t.Parallel()
	const raw = `{"calc":"c","bind":{"x":{"u":"entries.a","v":1.50}}}`
	var m MeasureSpec
	require.NoError(t, json.Unmarshal([]byte(raw), &m))
	out, err := json.Marshal(m)
	require.NoError(t, err)
	assert.Equal(t, raw, string(out))
}

func measuring(id string, m MeasureSpec) Step {
	return Step{ID: id, Kind: Measure, Title: id, Say: "x", Measure: &m}
}

func play(unit string) MeasureSpec {
	return MeasureSpec{Calc: "free-play",
		Asks: []Ask{{ID: "play", Text: "Play", Unit: unit, Sheet: "limits.play"}},
		Bind: map[string]Template{"measured": Template(`"entries.play"`),
			"wanted_min": Template(`"sheet.limits.play.min"`), "wanted_max": Template(`"sheet.limits.play.max"`),
			"adjuster_pitch": Template(`"sheet.figures.pitch"`), "ratio": Template(`"sheet.figures.ratio"`)}}
}

// What the sheet holds is tried against the calculator when a rebuild is
// opened: a figure of the wrong kind is named before anybody measures.
func TestTheSheetIsTriedOnTheCalculators(t *testing.T) {
	t.Parallel()
	sheet := func(figures string) SpecSheet {
		var s SpecSheet
		require.NoError(
			t,
			json.Unmarshal(
				[]byte(
					`{"id":"s","family":"S","version":1,"limits":{"play":{"min":"20 mm","max":"25 mm"}},"figures":`+
						figures+`}`,
				),
				&s,
			),
		)
		return s
	}
	b := Book{
		Kinds: kinds.Natures(), Routes: []Route{route(measuring("m", play("mm")))},
		Figures: map[string]json.RawMessage{"ratio": json.RawMessage(`5`)},
	}
	open := func(figures string) error {
		b.Sheets = []SpecSheet{sheet(figures)}
		_, err := b.Copy("r", "s")
		return err
	}
	require.NoError(t, open(`{"pitch":"1.25 mm"}`), "the ratio is the shop's")
	assert.ErrorContains(t, open(`{}`), "sheet.figures.pitch")
	assert.ErrorContains(t, open(`{"pitch":"1.25 L"}`), "free-play asks for adjuster_pitch")
	assert.ErrorContains(t, open(`{"pitch":"1.25 mm","ratio":"six"}`), "free-play asks for ratio",
		"the sheet's own figure stands over the shop's")
}

// Where nothing is left to ask, the calculator answers when the rebuild is
// opened: figures of the right kind that cannot be are named then.
func TestSheetFiguresThatCannotBeAreNamedAtTheOpening(t *testing.T) {
	t.Parallel()
	fuse := MeasureSpec{
		Calc: "tap-drill",
		Bind: map[string]Template{"diameter": Template(`"sheet.figures.thread"`),
			"pitch": Template(`"sheet.figures.pitch"`)},
	}
	b := Book{Kinds: kinds.Natures(), Routes: []Route{route(measuring("m", fuse))}}
	open := func(pitch string) error {
		b.Sheets = []SpecSheet{
			{
				ID: "s", Family: "S",
				Figures: map[string]json.RawMessage{"thread": json.RawMessage(`"14 mm"`),
					"pitch": json.RawMessage(pitch)},
			},
		}
		_, err := b.Copy("r", "s")
		return err
	}
	require.NoError(t, open(`"1.5 mm"`))
	assert.ErrorContains(t, open(`"-1.5 mm"`), "tap-drill asks for pitch")
}

// A figure taken from an earlier step is a gate to it.
func TestABindingIsAGate(t *testing.T) {
	t.Parallel()
	later := play("mm")
	later.Asks = nil
	later.Bind["measured"] = Template(`"steps.first.play"`)
	r := route(measuring("first", play("mm")), measuring("second", later))
	require.Empty(t, r.Check(Known{Kinds: kinds.Natures()}))
	Book{}.Complete(&r)
	second, _, _ := r.Step("second")
	assert.Equal(t, []string{"first"}, second.After)
	back := route(measuring("second", later), measuring("first", play("mm")))
	assert.True(
		t, strings.Contains(back.Check(Known{Kinds: kinds.Natures()}).Error(), `"steps.first.play" gives nothing`),
		"a step cannot take from one after it",
	)
	first := measuring("first", play("mm"))
	first.After = []string{"second"}
	assert.Contains(
		t, paths(route(first, measuring("second", later)).Check(Known{Kinds: kinds.Natures()})),
		"stations[0].steps[0].after[0]", "nor wait for one that takes from it",
	)
}
