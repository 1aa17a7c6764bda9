package clutch

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/shim"
)

func lengthMM(v float64) Length {
	return quantity.Say(quantity.Length(v)*quantity.Millimetre, quantity.Named("mm"))
}

// press is the disc spring's force but for its constant, written out without units from
// EN 16984: f = x·((h − x)(h − x/2) + 1), lengths over the thickness.
func press(h0, t, s float64) float64 {
	x, h := s/t, h0/t
	return x * ((h-x)*(h-x/2) + 1)
}

func TestRefacingLetsTheDiaphragmOut(t *testing.T) {
	t.Parallel()
	ratio := 3.5
	in := CoverIn{
		Step:      lengthMM(1),
		StepMin:   lengthMM(0.9),
		StepMax:   lengthMM(1.1),
		Cut:       lengthMM(0.5),
		Thick:     lengthMM(25),
		Least:     lengthMM(24.2),
		Diaphragm: &ratio,
		Spring:    &Spring{lengthMM(200), lengthMM(160), lengthMM(2.6), lengthMM(4.4), lengthMM(4.2)},
	}
	out, err := Cover(in)
	require.NoError(t, err)
	assert.InDelta(t, 1.5, out.StepAfter.Value, 1e-9)
	assert.Equal(t, metrology.Out, out.AfterVerdict)
	assert.InDelta(t, 0.5, out.CutCover.Value, 1e-9)
	assert.InDelta(t, 0.8, out.Allowance.Value, 1e-9)
	assert.InDelta(t, 100*press(4.4, 2.6, 3.7)/press(4.4, 2.6, 4.2), *out.Clamp, 1e-6)
	assert.InDelta(t, 0.5*3.5, out.Fingers.Value, 1e-9, "toward the bearing, as wear does")

	in.CutCover = lengthMM(0.5)
	out, err = Cover(in)
	require.NoError(t, err)
	assert.Equal(t, metrology.In, out.AfterVerdict)
	assert.InDelta(t, 100, *out.Clamp, 1e-9, "both faces alike: the clamp stays")
	assert.InDelta(t, -0.5, out.Fingers.Value, 1e-9, "and the cover is so much further from the bearing")

	in.Cut, in.CutCover = lengthMM(0.9), Length{}
	out, err = Cover(in)
	require.NoError(t, err)
	assert.Equal(t, metrology.Out, out.ThickVerdict)
	assert.Contains(t, out.Says, "too thin")
}

// Both faces cut alike leave step and clamp as they were, whatever the spring, and the
// cover is that much further from the bearing.
func TestBothFacesCutAlikeChangeNothingButTheTravel(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		cut, ratio := rapid.Float64Range(0.05, 1).Draw(t, "cut"), rapid.Float64Range(1.5, 5).Draw(t, "ratio")
		fitted := rapid.Float64Range(1, 3).Draw(t, "fitted")
		out, err := Cover(CoverIn{Step: lengthMM(2), Cut: lengthMM(cut), CutCover: lengthMM(cut), Diaphragm: &ratio,
			Spring: &Spring{lengthMM(200), lengthMM(160), lengthMM(2.6), lengthMM(3.4), lengthMM(fitted)}})
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(*out.Clamp-100) > 1e-6 || math.Abs(out.StepAfter.Value-2) > 1e-6 ||
			math.Abs(out.Fingers.Value+cut) > 1e-6 {
			t.Fatalf("%v, %v, %v", *out.Clamp, out.StepAfter, out.Fingers)
		}
	})
}

func TestFingersAndDualMassAgainstTheSheet(t *testing.T) {
	t.Parallel()
	turn, most := quantity.Number(16), quantity.Number(15)
	out, err := Cover(CoverIn{Fingers: []Length{lengthMM(38), lengthMM(38.6), lengthMM(38.1)}, SpreadMax: lengthMM(0.6),
		Dual: &DualMass{Turn: &turn, TurnMax: &most, Rock: lengthMM(1), RockMax: lengthMM(2)}})
	require.NoError(t, err)
	assert.Equal(t, 2, out.High)
	assert.Equal(t, metrology.In, out.SpreadVerdict, "equal to the limit is in")
	assert.Equal(t, metrology.Out, out.TurnVerdict)
	assert.Equal(t, metrology.In, out.RockVerdict)
	assert.Equal(t, metrology.Out, out.Verdict)
	for field, in := range map[string]CoverIn{
		"fingers":         {},
		"step_min":        {Step: lengthMM(1), StepMin: lengthMM(2), StepMax: lengthMM(1)},
		"cut":             {Thick: lengthMM(20), Cut: lengthMM(20)},
		"dual_mass.rock":  {Dual: &DualMass{Rock: lengthMM(-1)}},
		"fingers[1]":      {Fingers: []Length{lengthMM(1), lengthMM(-1), lengthMM(1)}},
		"diaphragm_ratio": {Step: lengthMM(1), Cut: lengthMM(0.1), Diaphragm: new(float64)},
	} {
		_, err := Cover(in)
		require.ErrorContains(t, err, field)
	}
}

// A plate thicker by what the travel is too long brings it to the middle, whatever the
// figures: the travel goes by the plate, and the springs get what it takes.
func TestAnEndPlateTradesClearanceForPreload(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		travel, trial := rapid.Float64Range(0.5, 3).Draw(t, "travel"), rapid.Float64Range(2, 6).Draw(t, "trial")
		in := WetPackIn{
			Travel:  []Length{lengthMM(travel), lengthMM(travel)},
			Trial:   lengthMM(trial),
			Min:     lengthMM(1.2),
			Max:     lengthMM(1.6),
			Faces:   10,
			Plates:  []shim.StockItem{{Thickness: lengthMM(trial + 0.2)}},
			Height:  lengthMM(30),
			Depth:   lengthMM(30 + trial + 8),
			Springs: 2,
			Spring:  &Spring{De: lengthMM(125), Di: lengthMM(64), T: lengthMM(2.5), H0: lengthMM(2.6)},
		}
		out, err := WetPack(in)
		if err != nil {
			t.Fatal(err)
		}
		near := func(want, got float64, what string) {
			if math.Abs(want-got) > 1e-6 {
				t.Fatalf("%s: %v, not %v", what, got, want)
			}
		}
		near(trial+travel-1.4, out.Plate.Aim.Value, "plate")
		near(travel/10, out.PerFace.Value, "a face")
		near(2*5.1-8, out.Press.Value, "pressed")
		for _, p := range out.Plates {
			near(travel-(p.Plate.Value-trial), p.Clearance.Value, "clearance with another plate")
			near(press(2.6, 2.5, (2.2+0.2)/2)/press(2.6, 2.5, 2.2/2), p.Force.Value/out.Force.Value, "force")
		}
	})
}

func TestAWetPackSaysWhatIsWrong(t *testing.T) {
	t.Parallel()
	good := WetPackIn{Travel: []Length{lengthMM(1.9)}, Trial: lengthMM(4), Min: lengthMM(1.2), Max: lengthMM(1.6)}
	out, err := WetPack(good)
	require.NoError(t, err)
	assert.Contains(t, fmt.Sprint(out.Says), "read the travel again", "one reading without a gauge decides nothing")
	for field, change := range map[string]func(*WetPackIn){
		"travel":        func(in *WetPackIn) { in.Travel = nil },
		"travel[0]":     func(in *WetPackIn) { in.Travel = []Length{lengthMM(-1)} },
		"clearance_min": func(in *WetPackIn) { in.Min = lengthMM(2) },
		"faces":         func(in *WetPackIn) { in.Faces = -1 },
		"height": func(in *WetPackIn) {
			in.Spring = &Spring{De: lengthMM(125), Di: lengthMM(64), T: lengthMM(2.5), H0: lengthMM(2.6)}
		},
		"plates[0]": func(in *WetPackIn) { in.Plates = []shim.StockItem{{Thickness: lengthMM(-1)}} },
	} {
		in := good
		change(&in)
		_, err := WetPack(in)
		require.ErrorContains(t, err, field, field)
	}
}
