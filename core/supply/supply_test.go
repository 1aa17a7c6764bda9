package supply_test

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/core/supply"
)

// The shapes are common practice in buying parts; the prices are invented.
var (
	singles = []supply.Single{
		{Part: "ring-12", Supplier: "Harbour stores", Price: quantity.MoneyOf(60), Lead: 2},
		{Part: "bearing", Supplier: "Harbour stores", Price: quantity.MoneyOf(80), Lead: 2},
		{Part: "seal", Supplier: "Harbour stores", Price: quantity.MoneyOf(9), Lead: 1},
		{Part: "circlip", Supplier: "Harbour stores", Price: quantity.MoneyOf(4), Pack: 10, Lead: 1},
		{Part: "pad", Supplier: "Mainland", Price: quantity.MoneyOf(30), Lead: 7},
	}
	kits = []supply.Kit{
		{
			ID: "a", Name: "Kit A", Supplier: "Mainland", Price: quantity.MoneyOf(120), Lead: 4,
			Holds: supply.Holds{"ring-12": 2, "ring-34": 2, "bearing": 1, "seal": 1},
		},
	}
)

func wants(parts ...string) (list []supply.Want) {
	for _, p := range parts {
		list = append(list, supply.Want{Line: "strip." + p, Part: p, Name: p, Pieces: 1})
	}
	return list
}

func TestAKitAgainstSingles(t *testing.T) {
	t.Parallel()
	list := append(wants("bearing", "seal", "circlip", "pad"),
		supply.Want{Line: "strip.ring-12", Part: "ring-12", Name: "rings", Pieces: 2})
	ways := supply.Ways(list, singles, kits, 10)
	require.Len(t, ways, 2)
	kit, loose := ways[0], ways[1]
	assert.Equal(t, "a", kit.ID)
	assert.InDelta(t, 120+4+30, kit.Sum.Sum(), 1e-9)
	assert.InDelta(t, 2*60+80+9+4+30, loose.Sum.Sum(), 1e-9)
	assert.Equal(t, 7, kit.Days, "the pad that the kit lacks comes last")
	assert.True(t, kit.InTime)
	assert.Equal(t, []string{"strip.bearing", "strip.seal", "strip.ring-12"}, kit.Buys[0].Covers)
	assert.Equal(t, []supply.Part{{Part: "ring-34", Pieces: 2}}, kit.Spare)
	assert.Equal(t, "strip.circlip", kit.Buys[1].Line)
	assert.Equal(t, 9, kit.Buys[1].Left, "sold by ten")
}

func TestWhatIsInTimeComesBeforeWhatIsCheap(t *testing.T) {
	t.Parallel()
	ways := supply.Ways(wants("bearing", "seal"), singles, kits, 3)
	assert.Equal(t, "", ways[0].ID, "the kit is here on the fourth day")
	assert.False(t, ways[1].InTime)
	two := []supply.Single{{Part: "pad", Supplier: "far", Price: quantity.MoneyOf(10), Lead: 9},
		{Part: "pad", Supplier: "near", Price: quantity.MoneyOf(25), Lead: 1}}
	for within, from := range map[int]string{12: "far", 5: "near", 0: "near"} {
		way := supply.Ways(wants("pad"), two, nil, within)[0]
		assert.Equal(t, from, way.Buys[0].Packs[0].Supplier, "within %d days", within)
	}
}

func TestWhatNobodyOffersIsSaid(t *testing.T) {
	t.Parallel()
	list := append(wants("seal"), supply.Want{Line: "own-1", Name: "Odd nut, M7", Pieces: 2})
	way := supply.Ways(list, singles, kits[:0], 3)[0]
	assert.Equal(t, 1, way.Unpriced)
	assert.Equal(t, 1, way.Undated)
	assert.InDelta(t, 9, way.Sum.Sum(), 1e-9)
	list[1].Own = &supply.Single{Supplier: "Bolt shop", Price: quantity.MoneyOf(1.5), Lead: 1}
	way = supply.Ways(list, singles, nil, 3)[0]
	assert.Zero(t, way.Unpriced)
	assert.InDelta(t, 12, way.Sum.Sum(), 1e-9)
}

// TestPacksCostLeast holds the packs against trying every number of each.
func TestPacksCostLeast(t *testing.T) {
	t.Parallel()
	rng := rand.New(rand.NewPCG(7, 11))
	for range 400 {
		offers := make([]supply.Single, 1+rng.IntN(3))
		for i := range offers {
			offers[i] = supply.Single{Part: "x", Supplier: "s", Pack: quantity.Count(1 + rng.IntN(7)),
				Price: quantity.MoneyOf(float64(1 + rng.IntN(30)))}
		}
		pieces := 1 + rng.IntN(16)
		way := supply.Ways([]supply.Want{{Line: "x", Part: "x", Pieces: pieces}}, offers, nil, 0)[0]
		b := way.Buys[0]
		got, price := 0, 0.0
		for _, p := range b.Packs {
			got, price = got+p.Count*p.InPack(), price+float64(p.Count)*p.Price.Sum()
		}
		require.GreaterOrEqual(t, got, pieces)
		require.Equal(t, got-pieces, b.Left)
		require.InDelta(t, price, b.Price.Sum(), 1e-9)
		require.InDelta(t, least(offers, pieces), price, 1e-9, "%v for %d", offers, pieces)
	}
}

func least(offers []supply.Single, pieces int) float64 {
	if pieces <= 0 {
		return 0
	}
	if len(offers) == 0 {
		return math.Inf(1)
	}
	best := math.Inf(1)
	for n := 0; (n-1)*offers[0].InPack() < pieces; n++ {
		best = min(best, float64(n)*offers[0].Price.Sum()+least(offers[1:], pieces-n*offers[0].InPack()))
	}
	return best
}

// TestEveryWantIsCoveredOnce: whatever the kits, each piece that is wanted is
// bought, in a kit or alone, and never twice.
func TestEveryWantIsCoveredOnce(t *testing.T) {
	t.Parallel()
	rng := rand.New(rand.NewPCG(3, 5))
	parts := []string{"a", "b", "c", "d", "e"}
	for range 300 {
		var list []supply.Want
		for _, p := range parts {
			if rng.IntN(3) > 0 {
				list = append(list, supply.Want{Line: p, Part: p, Pieces: 1 + rng.IntN(3)})
			}
		}
		var some []supply.Kit
		for k := range rng.IntN(4) {
			holds := supply.Holds{}
			for range 1 + rng.IntN(3) {
				holds[parts[rng.IntN(5)]] += 1
			}
			some = append(some, supply.Kit{ID: string(rune('p' + k)), Price: quantity.MoneyOf(5), Holds: holds})
		}
		for _, way := range supply.Ways(list, nil, some, 5) {
			brought := map[string]int{}
			for _, k := range some {
				if slices.ContainsFunc(way.Buys, func(b supply.Buy) bool { return b.Kit == k.ID }) {
					for p, n := range k.Holds {
						brought[p] += n
					}
				}
			}
			for _, s := range way.Spare {
				brought[s.Part] -= s.Pieces
			}
			for _, b := range way.Buys {
				if b.Kit == "" {
					brought[b.Line] += b.Pieces
				}
			}
			for _, w := range list {
				require.Equal(t, w.Pieces, brought[w.Part], "%s of %v with %v", w.Part, list, some)
				delete(brought, w.Part)
			}
			for p, n := range brought {
				require.Zero(t, n, p)
			}
		}
	}
}

func TestInterfacesHeldAgainstEachOther(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		old, fresh string
		same       bool
	}{
		{"10 mm", "8 mm", false}, {"10 mm", "1 cm", true}, {"1/2 in", "12.7 mm", true}, {"M7 x 1.0", "M7x1", true},
		{"M7 × 1,0", "m7 x 1", true}, {"M8 x 1.25", "M8 x 1", false}, {"2 holes", "3 holes", false},
		{"left", " Left ", true},
		{"left", "right", false}, {"10", "10 mm", false}, {"4.10:1", "4.1 : 1", true},
		{"3 ports", "3 ports, one blind", false}, {"", "", true},
	} {
		assert.Equal(t, c.same, supply.Same(c.old, c.fresh), "%q against %q", c.old, c.fresh)
		assert.Equal(t, c.same, supply.Same(c.fresh, c.old), "%q against %q", c.fresh, c.old)
	}
}

func TestWhatAKitHoldsIsWrittenAsItIsSaid(t *testing.T) {
	t.Parallel()
	var k supply.Kit
	require.NoError(t, json.Unmarshal([]byte(`{"id":"a","holds":"seal, circlip x 2,ring x 1"}`), &k))
	assert.Equal(t, supply.Holds{"seal": 1, "circlip": 2, "ring": 1}, k.Holds)
	raw, err := json.Marshal(k.Holds)
	require.NoError(t, err)
	assert.Equal(t, `"circlip x 2, ring, seal"`, string(raw))
	for _, bad := range []string{"seal x none", "seal,,circlip", "seal x -1", "seal x 100000"} {
		assert.Error(t, k.Holds.UnmarshalText([]byte(bad)), bad)
	}
}

func FuzzHolds(f *testing.F) {
	f.Add("seal, circlip x 2")
	f.Fuzz(func(t *testing.T, text string) {
		var h, again supply.Holds
		if h.UnmarshalText([]byte(text)) != nil {
			return
		}
		said, err := h.MarshalText()
		require.NoError(t, err)
		require.NoError(t, again.UnmarshalText(said), "%q came of %q", said, text)
		require.Equal(t, h, again)
	})
}

func FuzzSame(f *testing.F) {
	f.Add("M7 x 1.0", "M7x1")
	f.Fuzz(func(t *testing.T, a, b string) {
		require.True(t, supply.Same(a, a))
		require.Equal(t, supply.Same(a, b), supply.Same(b, a))
	})
}

func TestOffersThatCannotBe(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		single supply.Single
		names  string
	}{
		{supply.Single{Supplier: "s"}, "singles[0].part"},
		{supply.Single{Part: "x"}, "singles[0].supplier"},
		{supply.Single{Part: "x", Supplier: "s", Price: quantity.MoneyOf(-1)}, "singles[0].price"},
		{supply.Single{Part: "x", Supplier: "s", Lead: -2}, "singles[0].lead_days"},
		{supply.Single{Part: "x", Supplier: "s", Pack: -2}, "singles[0].pack"},
		{supply.Single{Part: "x", Supplier: "s", Drawer: "d"}, "singles[0].size"},
	} {
		assert.ErrorContains(t, supply.CheckSingles("singles", []supply.Single{c.single}).Err(), c.names)
	}
	assert.NoError(t, supply.CheckSingles("singles", singles).Err())
	assert.NoError(t, supply.CheckKits("kits", kits).Err())
	assert.ErrorContains(t, supply.CheckKits("kits", []supply.Kit{kits[0], kits[0]}).Err(), "kits[1].id")
	assert.ErrorContains(t, supply.CheckKits("kits", []supply.Kit{{ID: "b", Name: "B", Supplier: "s"}}).Err(),
		"kits[0].holds")
}

func BenchmarkWaysOf60PartsAnd6Kits(b *testing.B) {
	var list []supply.Want
	var offers []supply.Single
	some := make([]supply.Kit, 6)
	for i := range some {
		some[i] = supply.Kit{ID: string(rune('a' + i)), Holds: supply.Holds{}, Price: quantity.MoneyOf(90)}
	}
	for i := range 60 {
		p := string(rune('A'+i%26)) + string(rune('a'+i/26))
		list = append(list, supply.Want{Line: p, Part: p, Pieces: 1 + i%3})
		offers = append(
			offers,
			supply.Single{Part: p, Price: quantity.MoneyOf(10), Pack: quantity.Count(1 + i%4)},
			supply.Single{Part: p, Price: quantity.MoneyOf(7)},
		)
		some[i%6].Holds[p] = 2
	}
	for b.Loop() {
		supply.Ways(list, offers, some, 5)
	}
}
