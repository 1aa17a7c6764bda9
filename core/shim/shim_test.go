package shim

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
)

func mm(v float64) Length {
	u, _ := quantity.UnitNamed("mm")
	return quantity.Say(quantity.Length(v)*quantity.Millimetre, u)
}

func said(t quantitytest.TB, text string) Length {
	return quantitytest.Said[quantity.Length](t, text)
}

func drawer(counts map[float64]int) []StockItem {
	var items []StockItem
	for thickness, n := range counts {
		items = append(items, StockItem{Thickness: mm(thickness), Count: &n})
	}
	sort.Slice(items, func(i, j int) bool { return items[i].Thickness.SI() < items[j].Thickness.SI() })
	return items
}

// everyPack tries all packs in whole micrometres and sorts them by the words
// of BestPacks, written anew: {off, shims, thin, counts from the thinnest size}.
func everyPack(wanted int, size, count []int, maxShims, thin int) [][]int {
	order := make([]int, len(size)) // thinnest first
	for i := range order {
		order[i] = i
	}
	sort.Slice(order, func(a, b int) bool { return size[order[a]] < size[order[b]] })
	var all [][]int
	var try func(k, sum, shims, thins int, counts []int)
	try = func(k, sum, shims, thins int, counts []int) {
		if k == len(order) {
			off := sum - wanted
			if off < 0 {
				off = -off
			}
			all = append(all, append([]int{off, shims, thins}, counts...))
			return
		}
		i := order[k]
		for n := 0; n <= count[i] && shims+n <= maxShims; n++ {
			t := thins
			if size[i] < thin {
				t += n
			}
			try(k+1, sum+n*size[i], shims+n, t, append(counts[:len(counts):len(counts)], n))
		}
	}
	try(0, 0, 0, 0, nil)
	sort.Slice(all, func(a, b int) bool { return slices.Compare(all[a], all[b]) < 0 })
	return all
}

func TestPacksAreTheBestOfAllPacks(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(1, 5).Draw(t, "sizes")
		size, count, stock := make([]int, n), make([]int, n), make([]Size, n)
		seen := map[int]bool{}
		for i := range n {
			size[i] = rapid.IntRange(10, 1000).Filter(func(v int) bool { return !seen[v] }).Draw(t, "size")
			if rapid.Bool().Draw(t, "round") { // so that many packs are equally good
				size[i] = 25 * (1 + size[i]/25)
			}
			for seen[size[i]] {
				size[i]++
			}
			seen[size[i]] = true
			count[i] = rapid.IntRange(0, 3).Draw(t, "count")
			stock[i] = Size{quantity.Length(size[i]) * quantity.Micrometre, count[i]}
		}
		maxShims, wanted := rapid.IntRange(1, 5).Draw(t, "max"), rapid.IntRange(0, 3000).Draw(t, "wanted")
		got := BestPacks(quantity.Length(wanted)*quantity.Micrometre, stock, maxShims, DefaultThin)
		want := everyPack(wanted, size, count, maxShims, 100)
		require.Len(t, got, min(keep, len(want)))
		for i, p := range got {
			has := map[int]int{}
			sum := 0
			for _, pick := range p.Of {
				has[size[pick.Index]] = pick.Count
				sum += pick.Count * size[pick.Index]
			}
			described := []int{max(sum-wanted, wanted-sum), p.Shims, p.Thin}
			for _, s := range slices.Sorted(slices.Values(size)) {
				described = append(described, has[s])
			}
			require.Equal(t, want[i], described, "pack %d of %v, wanted %d", i, size, wanted)
			require.InDelta(t, float64(sum), float64(p.Sum/quantity.Micrometre), 1e-6)
		}
	})
}

// The same drawer gives the same answer every time, however the sums round.
func TestTheAnswerNeverChanges(t *testing.T) {
	t.Parallel()
	stock := []StockItem{}
	for _, v := range []float64{0.05, 0.07, 0.1, 0.13, 0.17, 0.2, 0.23, 0.3} {
		stock = append(stock, StockItem{Thickness: mm(v)})
	}
	in := PackIn{Required: mm(0.9), Tolerance: mm(0.01), Stock: stock}
	first, err := FindPack(in)
	require.NoError(t, err)
	for range 60 {
		again, err := FindPack(in)
		require.NoError(t, err)
		require.Equal(t, first, again)
	}
	for i, p := range first.Packs[1:] {
		if p.Error.Value == first.Packs[i].Error.Value {
			assert.GreaterOrEqual(t, p.Shims, first.Packs[i].Shims, "fewer shims first where the error is the same")
		}
	}
}

func TestTheOrderCountsWhatIsThere(t *testing.T) {
	t.Parallel()
	one := 1
	out, err := FindPack(PackIn{Required: mm(2.03), Tolerance: mm(0.01),
		Stock: []StockItem{{Thickness: mm(0.5), Count: &one}}})
	require.NoError(t, err)
	assert.InDelta(t, 1.53, out.Order.Value, 1e-9, "there is one to put it on, not three")
}

func TestFindPack(t *testing.T) {
	t.Parallel()
	stock := drawer(map[float64]int{0.05: 4, 0.10: 4, 0.25: 2, 0.50: 2})
	out, err := FindPack(PackIn{Required: mm(0.61), Tolerance: mm(0.02), Stock: stock})
	require.NoError(t, err)
	assert.Equal(t, metrology.In, out.Verdict)
	assert.InDelta(t, 0.60, out.Packs[0].Sum.Value, 1e-9)
	assert.Equal(t, 2, out.Packs[0].Shims, "0.50 + 0.10 before four of anything")
	assert.LessOrEqual(t, len(out.Packs), 5)

	far, err := FindPack(PackIn{Required: mm(4), Tolerance: mm(0.02), Stock: stock})
	require.NoError(t, err)
	assert.Equal(t, metrology.Out, far.Verdict)
	require.True(t, far.Order.IsSaid())
	assert.Contains(t, far.Says, "order a shim of")

	empty, err := FindPack(PackIn{Required: mm(0.3), Tolerance: mm(0.02)})
	require.NoError(t, err)
	assert.Equal(t, metrology.Out, empty.Verdict)
	assert.InDelta(t, 0.3, empty.Order.Value, 1e-9)
}

func TestWhatIsOrderedCompletesAPack(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		var items []StockItem
		for range rapid.IntRange(1, 4).Draw(t, "sizes") {
			item := StockItem{Thickness: mm(float64(rapid.IntRange(5, 60).Draw(t, "size")) / 100)}
			if n := rapid.IntRange(0, 4).Draw(t, "count"); n < 4 {
				item.Count = &n
			}
			items = append(items, item)
		}
		required := mm(float64(rapid.IntRange(1, 200).Draw(t, "required")) / 100)
		out, err := FindPack(PackIn{Required: required, Tolerance: mm(0), Stock: items})
		require.NoError(t, err)
		if out.Verdict == metrology.In {
			return
		}
		again, err := FindPack(PackIn{Required: required, Tolerance: mm(0),
			Stock: append(items, StockItem{Thickness: out.Order})})
		require.NoError(t, err)
		assert.Equal(t, metrology.In, again.Verdict, "with %s the pack of %s works", out.Order, required)
	})
}

// Metric and inch input give the same answer, each in its own unit.
func TestMetricAndInchAgree(t *testing.T) {
	t.Parallel()
	rapid.Check(t, func(t *rapid.T) {
		thousandths := rapid.SliceOfN(rapid.IntRange(1, 60), 2, 6).Draw(t, "readings")
		metric := floatCase(t)
		inch := floatCase(t)
		metric.Readings, inch.Readings = nil, nil
		for _, n := range thousandths {
			inch.Readings = append(inch.Readings, said(t, fmt.Sprintf("%d thou", n)))
			metric.Readings = append(metric.Readings, said(t, fmt.Sprintf("%.4f mm", float64(n)*0.0254)))
		}
		a, err := EndFloat(metric)
		require.NoError(t, err)
		b, err := EndFloat(inch)
		require.NoError(t, err)
		assert.Equal(t, a.Verdict, b.Verdict)
		assert.Equal(t, "mm", a.Required.Aim.Unit.Symbol)
		assert.Equal(t, "thou", b.Required.Aim.Unit.Symbol)
		assert.InDelta(t, float64(a.Required.Aim.SI()), float64(b.Required.Aim.SI()), 1e-12)
		assert.Equal(t, len(a.Packs), len(b.Packs))
		if len(a.Packs) > 0 {
			assert.Equal(t, a.Packs[0].Pieces, b.Packs[0].Pieces)
		}
	})
}

func sixty() []StockItem {
	var items []StockItem
	for i := range 60 {
		items = append(items, StockItem{Thickness: mm(math.Round((0.05+0.037*float64(i))*1000) / 1000)})
	}
	return items
}

func BenchmarkShimPack60Sizes6Shims(b *testing.B) {
	in := PackIn{Required: mm(7.3137), Tolerance: mm(0.01), Stock: sixty(), MaxShims: 6}
	for b.Loop() {
		if _, err := FindPack(in); err != nil {
			b.Fatal(err)
		}
	}
}

// By hand: of 0.94 and 0.96 mm the first is 9.8 µm off 0.9498, the second 10.2.
func TestPacksAreRankedByTheUnroundedError(t *testing.T) {
	t.Parallel()
	out, err := FindPack(PackIn{Required: mm(0.9498), Tolerance: mm(0.01),
		Stock: []StockItem{{Thickness: mm(0.94)}, {Thickness: mm(0.96)}}})
	require.NoError(t, err)
	assert.Equal(t, metrology.In, out.Verdict)
	assert.Equal(t, "0.94 mm", out.Packs[0].Sum.String())
	assert.False(t, out.Order.IsSaid())
}
