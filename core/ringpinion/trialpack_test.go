package ringpinion

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/metrology"
	"handwerk/core/shim"
)

func tried(pack, torque float64) PackTried {
	return PackTried{mm(pack), []Torque{nm(torque), nm(torque), nm(torque)}}
}

// A shaft that turns at 40 N·m a millimetre of preload from 1.20 mm of pack on, its seal
// taking 0.2: 2.25 N·m wants 1.20 + 2.25/40 = 1.25625 mm, by hand.
func TestTwoPacksShowTheThird(t *testing.T) {
	t.Parallel()
	in := preloadIn()
	in.Trials = []PackTried{tried(1.22, 1.0), tried(1.24, 1.8)}
	out, err := BearingPreload(in)
	require.NoError(t, err)
	require.NotNil(t, out.Pack)
	assert.InDelta(t, 1.25625, out.Pack.Aim.Value, 1e-9)
	assert.InDelta(t, 1.2425, out.Pack.Min.Value, 1e-9)
	assert.InDelta(t, 1.27, out.Pack.Max.Value, 1e-9)
	assert.InDelta(t, 2.0, out.Pack.Rise.Value, 1e-9, "for 0.05 mm")
	assert.Equal(t, "fit a pack of 1.26 mm: expect 2.25 N·m without the seal", out.Says)
	in.Trials[1].Readings = in.Trials[1].Readings[:1]
	out, err = BearingPreload(in)
	require.NoError(t, err)
	assert.Equal(t, metrology.Undecided, out.Verdict, "one reading knows nothing of its spread")
	assert.Equal(
		t,
		"read it again over a full turn; if it reads the same, fit a pack of 1.26 mm: expect 2.25 N·m without the seal",
		out.Says,
	)
}

// A pack that lets go is the mirror of one that tightens; a pack without preload is off the line.
func TestPacksThatLetGoAreTheMirror(t *testing.T) {
	t.Parallel()
	in := preloadIn()
	in.Sense = shim.PackIncreases
	in.Trials = []PackTried{tried(0.60, 0.2), tried(0.48, 1.0), tried(0.46, 1.8)}
	out, err := BearingPreload(in)
	require.NoError(t, err)
	require.NotNil(t, out.Pack)
	assert.InDelta(t, 0.44375, out.Pack.Aim.Value, 1e-9)
	assert.Less(t, out.Pack.Min.Value, out.Pack.Max.Value)
}

// The last pack has play: the line is that of the two before it, and goes on from there.
func TestAPackWithPlayIsOffTheLine(t *testing.T) {
	t.Parallel()
	in := preloadIn()
	in.Trials = []PackTried{tried(1.22, 1.0), tried(1.24, 1.8), tried(1.10, 0.2)}
	out, err := BearingPreload(in)
	require.NoError(t, err)
	require.NotNil(t, out.Pack)
	assert.InDelta(t, 1.25625, out.Pack.Aim.Value, 1e-9)
}

// A pack that nobody said is asked for, and does not bend the line of those that were.
func TestAPackThatWasNotSaidIsAskedFor(t *testing.T) {
	t.Parallel()
	in := preloadIn()
	in.Trials = []PackTried{tried(0, 0.6)}
	out, err := BearingPreload(in)
	require.NoError(t, err)
	assert.Contains(t, out.Says, "say which pack is in it")
	in.Trials = append(in.Trials, tried(1.22, 1.0), tried(1.24, 1.8))
	out, err = BearingPreload(in)
	require.NoError(t, err)
	require.NotNil(t, out.Pack)
	assert.InDelta(t, 1.25625, out.Pack.Aim.Value, 1e-9)
}

func TestOnePackAsksForAnother(t *testing.T) {
	t.Parallel()
	in := preloadIn()
	in.Trials = []PackTried{tried(1.22, 1.0)}
	out, err := BearingPreload(in)
	require.NoError(t, err)
	assert.Nil(t, out.Pack)
	assert.Equal(t, "fit a pack thicker by 0.05 mm: it shows how the torque answers", out.Says)
	in.Trials = []PackTried{tried(1.22, 5.0)}
	out, err = BearingPreload(in)
	require.NoError(t, err)
	assert.Contains(t, out.Says, "thinner by 0.05 mm")
}

func TestPacksThatTellNothing(t *testing.T) {
	t.Parallel()
	in := preloadIn()
	in.Trials = []PackTried{tried(1.24, 1.0), tried(1.22, 1.4)}
	out, err := BearingPreload(in)
	require.NoError(t, err)
	assert.Contains(t, out.Says, "does not rise with the pack")
	in.Trials = append(in.Trials, PackTried{Pack: mm(1)})
	in.Sense = "both"
	in.Readings = []Torque{nm(2)}
	_, err = BearingPreload(in)
	require.ErrorContains(t, err, "trials[2].readings")
	require.ErrorContains(t, err, "sense")
	require.ErrorContains(t, err, "no sleeve")
}

// The advice lands: any linear shaft is in its range with the third pack, out of a fine drawer.
func TestTheThirdPackLands(t *testing.T) {
	t.Parallel()
	rng := rand.New(rand.NewPCG(5, 25))
	for range 200 {
		from, rise := 0.5+rng.Float64(), 20+60*rng.Float64()
		at := func(pack float64) PackTried { return tried(pack, 0.2+max(0, rise*(pack-from))) }
		in := preloadIn()
		in.Stock = []shim.StockItem{
			{Thickness: mm(0.01)},
			{Thickness: mm(0.05)},
			{Thickness: mm(0.3)},
			{Thickness: mm(0.5)},
		}
		first := from + 0.01
		in.Trials = []PackTried{at(first), at(first + 0.01)}
		out, err := BearingPreload(in)
		require.NoError(t, err)
		if out.Verdict == metrology.In {
			continue
		}
		require.NotNil(t, out.Pack, out.Says)
		in.Trials = append(in.Trials, at(out.Pack.Aim.Value))
		out, err = BearingPreload(in)
		require.NoError(t, err)
		assert.Equal(t, metrology.In, out.Verdict, "from %.3f, rise %.1f", from, rise)
	}
}
