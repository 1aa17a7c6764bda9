package practice

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/core/ringpinion"
	"handwerk/core/runout"
)

func done(t *testing.T, in In) Out {
	t.Helper()
	out, err := Practice(in)
	require.NoError(t, err)
	return out
}

// Same acts, same bytes; and a longer list begins with the answers of the shorter.
func TestPracticeKeepsNoState(t *testing.T) {
	t.Parallel()
	acts := map[string][]Act{
		AxleKind: {
			reads("backlash", 12), reads("backlash", 3), {Read: "depth"}, {Read: "pattern"}, {Read: "turning"},
			{Assemble: &Assembly{PinionShim: mm(1.6), Left: mm(2.6), Right: mm(2.4)}}, reads("backlash", 6),
		},
		HousingKind: {
			{Read: "sag"}, reads("dial", 12), reads("dial", 3), reads("dial", 6),
			{Assemble: &Assembly{Dowels: []Dowel{{mm(7 * thou), 3}, {mm(7 * thou), 3}}}}, reads("dial", 6),
		},
		FaultKind: {
			{Read: driveTests[0].name}, {Read: driveTests[4].name}, {Order: "clutch"}, {Read: driveTests[0].name},
		},
	}
	for kind, list := range acts {
		for seed := range uint64(30) {
			for _, level := range []string{Clean, Noisy, Trap} {
				in := In{Kind: kind, Seed: seed, Level: level, Acts: list}
				whole := done(t, in)
				a, err := json.Marshal(whole)
				require.NoError(t, err)
				b, err := json.Marshal(done(t, in))
				require.NoError(t, err)
				require.Equal(t, string(a), string(b))
				assert.Nil(t, whole.Truth, "only reveal tells it")
				for n := range list {
					in.Acts = list[:n]
					require.Equal(t, whole.Answers[:n], done(t, in).Answers, "%s %d %s", kind, seed, level)
				}
			}
		}
	}
}

// A clean housing reads as the formula says, and moves as a rigid body: the bore keeps
// its distance to both dowels' holes.
func TestACleanHousingIsARigidBody(t *testing.T) {
	t.Parallel()
	for seed := range uint64(40) {
		out := done(t, In{Kind: HousingKind, Seed: seed, Level: Clean, Reveal: true,
			Acts: []Act{reads("dial", 12), reads("dial", 3), reads("dial", 7.5), {Read: "sag"}}})
		x, y, sag := out.Truth.Right.Value, out.Truth.Up.Value, out.Truth.Sag.Value
		shows := func(clock float64) float64 {
			a := clock * math.Pi / 6
			return y - (x*math.Sin(a) + y*math.Cos(a)) + sag*(1-math.Cos(a))/2
		}
		for i, clock := range []float64{12, 3, 7.5} {
			assert.InDelta(t, shows(clock), out.Answers[i].Reading.Value, housingStep/2+1e-9)
		}
		assert.InDelta(t, sag, out.Answers[3].Reading.Value, housingStep/2+1e-9)

		h := In{Kind: HousingKind, Seed: seed, Level: Clean}.fresh().(*housing)
		far := [2]float64{h.bore.minus(h.pins[0]).size(), h.bore.minus(h.pins[1]).size()}
		offset := [2]point{{7 * thou, 0}, {0, 7 * thou}}
		bore, bind := h.on(offset)
		assert.InDelta(
			t,
			far[0]*far[0]-far[1]*far[1],
			math.Pow(
				bore.minus(h.pins[0].plus(offset[0])).size(),
				2,
			)-math.Pow(
				bore.minus(h.pins[1].plus(offset[1])).size(),
				2,
			),
			2*math.Abs(bind)*400,
			"holes share what the spacing does not let them have",
		)
		same := point{14 * thou, -7 * thou}
		bore, bind = h.on([2]point{same, same})
		assert.InDelta(t, 0, bind, 1e-12)
		assert.InDelta(t, h.x+same.x, bore.x, 1e-9, "both alike is a pure shift")
		assert.InDelta(t, h.y+same.y, bore.y, 1e-9)
	}
}

// Who follows the advice of the bench puts a housing right.
func TestAHousingIsSolvedByTheAdvice(t *testing.T) {
	t.Parallel()
	right := 0
	const all = 60
	for seed := range uint64(all) {
		in := In{Kind: HousingKind, Seed: seed, Level: Noisy, Reveal: true, Acts: []Act{{Read: "sag"}}}
		clocks := []float64{12, 3, 6, 9, 12, 3, 6, 9, 12}
		for _, c := range clocks {
			in.Acts = append(in.Acts, reads("dial", c))
		}
		out := done(t, in)
		ask := runout.HousingIn{
			MaxBind:     out.Given.MaxBind,
			LimitOffset: out.Given.LimitOffset,
			DowelSizes:  out.Given.DowelSizes,
		}
		ask.Positive, ask.Sag = "plunger_in", quantity.Said[quantity.Length]{Any: out.Answers[0].Reading}
		for i, c := range clocks {
			ask.Readings = append(ask.Readings, runout.Reading{Clock: c,
				Reading: quantity.Said[quantity.Length]{Any: out.Answers[i+1].Reading}})
		}
		for _, d := range out.Given.Dowels {
			ask.Dowels = append(ask.Dowels, runout.Point{X: d.X, Y: d.Y})
		}
		advice, err := runout.Bellhousing(ask)
		require.NoError(t, err)
		if len(advice.Plans) > 0 {
			var dowels []Dowel
			for _, d := range advice.Plans[0].Dowels {
				dowels = append(dowels, Dowel{d.Size, d.Clock})
			}
			in.Acts = append(in.Acts, Act{Assemble: &Assembly{Dowels: dowels}})
			out = done(t, in)
		}
		if out.Truth.Within {
			right++
		}
	}
	assert.GreaterOrEqual(t, right, all*9/10, "of %d", all)
}

// asks is what the bench is asked with what was read of an axle.
func asks(g Given, trials []ringpinion.Trial) ringpinion.TogetherIn {
	return ringpinion.TogetherIn{Trials: trials, Required: g.Required, DepthTol: g.DepthTol, BacklashMin: g.BacklashMin,
		BacklashMax: g.BacklashMax, PlayMin: g.PlayMin, PlayMax: g.PlayMax, Direction: ringpinion.Tangential,
		Geometry: &ringpinion.Geometry{PressureDeg: 20, SpiralDeg: 35, PitchDeg: 75}, RingSide: "left",
		ShimSide: ringpinion.HeadSide, ShimStep: g.ShimStep}
}

// followed sets an axle up as the bench advises and counts the assemblies.
func followed(t *testing.T, in In) (assemblies int, out Out) {
	t.Helper()
	packs := Assembly{PinionShim: mm(1.5), Left: mm(2.5), Right: mm(2.5)}
	var trials []ringpinion.Trial
	for n := range 7 {
		from := len(in.Acts)
		in.Acts = append(in.Acts, Act{Read: "depth"}, Act{Read: "slack"}, reads("backlash", 12), reads("backlash", 3),
			reads("backlash", 6), reads("backlash", 9))
		out = done(t, in)
		said := func(i int) Length { return quantity.Said[quantity.Length]{Any: out.Answers[from+i].Reading} }
		mean := 0.0
		for i := range 4 {
			mean += said(2+i).Value / 4
		}
		trials = append(trials, ringpinion.Trial{PinionShim: packs.PinionShim, Left: packs.Left, Right: packs.Right,
			Depth: said(0), ZeroPlay: said(1), Backlash: mm(mean)})
		advice, err := ringpinion.RingPinion(asks(out.Given, trials))
		require.NoError(t, err)
		if advice.Done {
			return n, out
		}
		packs = Assembly{PinionShim: advice.PinionShim, Left: advice.Left, Right: advice.Right}
		in.Acts = append(in.Acts, Act{Assemble: &packs})
	}
	return 9, out
}

// Who follows the advice sets an axle up in few assemblies.
func TestAnAxleIsSolvedByTheAdvice(t *testing.T) {
	t.Parallel()
	counts, wrong := map[int]int{}, 0
	for seed := range uint64(120) {
		n, out := followed(t, In{Kind: AxleKind, Seed: seed, Level: Noisy, Reveal: true})
		counts[n]++
		if !out.Truth.Within && n < 9 {
			wrong++
		}
	}
	assert.GreaterOrEqual(t, counts[0]+counts[1]+counts[2]+counts[3], 114, "%v", counts)
	assert.LessOrEqual(t, wrong, 6, "called done while it was out: %v", counts)
}

// The best path ends right, in every kind and level, and nothing better can be said of it.
func TestTheBestPathEndsRight(t *testing.T) {
	t.Parallel()
	for _, kind := range []string{AxleKind, HousingKind, FaultKind} {
		for _, level := range []string{Clean, Noisy, Trap} {
			for seed := range uint64(40) {
				in := In{Kind: kind, Seed: seed, Level: level, Reveal: true}
				in.Acts = done(t, in).BestPath
				out := done(t, in)
				name := fmt.Sprint(kind, " ", level, " ", seed)
				assert.True(t, out.Truth.Within, name)
				assert.Empty(t, out.Better, name)
				assert.Equal(t, level == Trap, out.Truth.Trap != "", name)
			}
		}
	}
}

// A wrong part costs money, and is told afterwards with the test that would have said so.
func TestAWrongPartIsTold(t *testing.T) {
	t.Parallel()
	in := In{Kind: FaultKind, Seed: 3, Level: Clean, Reveal: true}
	cause := done(t, in).Truth.Causes[0]
	for _, p := range driveParts {
		in.Acts = []Act{{Order: p.name}}
		out := done(t, in)
		assert.InDelta(t, p.price, out.Money, 1e-9)
		assert.Equal(t, p.name == cause, out.Truth.Within)
		assert.Equal(t, p.name != cause, len(out.Better) == 1, p.name)
	}
}

func TestPracticeNamesTheBadField(t *testing.T) {
	t.Parallel()
	for raw, says := range map[string]string{
		`{"kind": "boat", "seed": 1, "level": "clean"}`:                                            "kind:",
		`{"kind": "axle", "seed": 1, "level": "hard"}`:                                             "level:",
		`{"kind": "axle", "seed": 1, "level": "clean", "acts": [{}]}`:                              "acts[0]:",
		`{"kind": "axle", "seed": 1, "level": "clean", "acts": [{"read": "luck"}]}`:                "acts[0].read:",
		`{"kind": "axle", "seed": 1, "level": "clean", "acts": [{"read": "backlash"}]}`:            "acts[0].at:",
		`{"kind": "axle", "seed": 1, "level": "clean", "acts": [{"order": "clutch"}]}`:             "acts[0].order:",
		`{"kind": "housing", "seed": 1, "level": "clean", "acts": [{"assemble": {}}]}`:             "acts[0].assemble.dowels:",
		`{"kind": "fault", "seed": 1, "level": "clean", "acts": [{"order": "wing"}]}`:              "acts[0].order:",
		`{"kind": "axle", "seed": 1, "level": "clean", "acts": [{"assemble": {"left": "11 mm"}}]}`: "acts[0].assemble.left:",
	} {
		var in In
		require.NoError(t, input.Decode([]byte(raw), &in), raw)
		_, err := Practice(in)
		require.ErrorContains(t, err, says, raw)
	}
}
