// Package shim finds packs of shims and washers from what the drawer holds,
// and the pack that brings a shaft's end float to where it should be.
package shim

import (
	"cmp"
	"math"
	"math/bits"
	"slices"
	"sort"

	"handwerk/core/quantity"
)

// Size is one thickness in the drawer.
type Size struct {
	Thickness quantity.Length
	Count     int // how many are there; Plenty when nobody counted
}

// Plenty stands for an uncounted size.
const Plenty = math.MaxInt32

// Pack is a choice of shims, the thickest first.
type Pack struct {
	Of    []Pick
	Sum   quantity.Length
	Shims int
	Thin  int

	counts []int // of every size, thickest first
}

// Pick is a number of shims of one size (index into the stock).
type Pick struct{ Index, Count int }

// keep is how many packs an answer lists.
const keep = 5

// grid is the resolution of the search: 1 µm, finer than any shim is rolled.
const grid = quantity.Micrometre

// search is a bounded dynamic program over sums on the grid. After the first
// i sizes, reach[i][slot(k, t)] has bit s set when k shims, t of them thin,
// can sum to s.
type search struct {
	size   []int // thickness on the grid, thickest first
	count  []int
	thin   []bool
	index  []int // position in the caller's stock
	max    int   // shims a pack may hold
	words  int
	reach  [][][]uint64
	stock  []Size
	wanted quantity.Length
}

// BestPacks gives up to five different packs, best first: least |sum-wanted|, not
// rounded to the grid, then fewest shims, then fewest thin ones (below thin; thin
// shims crease and are easily lost), then fewest of the thinnest size, of the
// next thinnest, and so on. That is one order: the same drawer always gives the
// same answer. An empty pack is a pack. The optimum is exact on a 1 µm
// grid: a bounded dynamic program finds every reachable sum, then only packs
// that reach the nearest sums are written out.
//
// wanted must be >= 0, thicknesses > 0 and max between 1 and 12.
func BestPacks(wanted quantity.Length, stock []Size, max int, thin quantity.Length) []Pack {
	s := newSearch(wanted, stock, max, thin)
	s.fill()
	var packs []Pack
	enough := math.Inf(1)
	for _, sum := range s.sumsByError() {
		off := math.Abs(float64(sum) - float64(wanted/grid))
		if off > enough+float64(max) {
			break // rounding to the grid moves a pack by half a step per shim at most
		}
		packs = append(packs, s.packsOf(sum, keep)...)
		if len(packs) >= keep {
			enough = math.Min(enough, off)
		}
	}
	slices.SortStableFunc(packs, func(a, b Pack) int { return compare(a, b, wanted) })
	return packs[:min(keep, len(packs))]
}

// compare is the order that BestPacks states.
func compare(a, b Pack, wanted quantity.Length) int {
	if c := cmp.Or(cmp.Compare(a.off(wanted), b.off(wanted)), cmp.Compare(a.Shims, b.Shims),
		cmp.Compare(a.Thin, b.Thin)); c != 0 {
		return c
	}
	for i := len(a.counts) - 1; i >= 0; i-- {
		if c := cmp.Compare(a.counts[i], b.counts[i]); c != 0 {
			return c
		}
	}
	return 0
}

// off is how far a pack is from what is wanted, in whole nanometres, which both
// thousandths of an inch and of a millimetre are, so that no order of adding shows.
func (p Pack) off(wanted quantity.Length) int64 {
	off := nanometres(p.Sum) - nanometres(wanted)
	return max(off, -off)
}

func nanometres(l quantity.Length) int64 { return int64(math.Round(float64(l) * 1e9)) }

func onGrid(l quantity.Length) int { return int(math.Round(float64(l / grid))) }

func newSearch(wanted quantity.Length, stock []Size, max int, thin quantity.Length) *search {
	s := &search{max: max, stock: stock, wanted: wanted}
	for i := range stock {
		s.index = append(s.index, i)
	}
	sort.SliceStable(s.index, func(a, b int) bool {
		return stock[s.index[a]].Thickness > stock[s.index[b]].Thickness
	})
	for _, i := range s.index {
		s.size = append(s.size, onGrid(stock[i].Thickness))
		s.count = append(s.count, min(stock[i].Count, max))
		s.thin = append(s.thin, nanometres(stock[i].Thickness) < nanometres(thin))
	}
	// A pack that overshoots by more than keep of the thickest shims gets
	// better by leaving one out, keep times over; no need to look there.
	top := onGrid(wanted)
	if len(s.size) > 0 {
		top = min(top+keep*s.size[0], max*s.size[0])
	}
	s.words = top/64 + 1
	return s
}

// slot numbers the states (k shims, t of them thin), t <= k.
func slot(k, t int) int { return k*(k+1)/2 + t }

func (s *search) fill() {
	slots := slot(s.max, s.max) + 1
	empty := make([][]uint64, slots)
	empty[0] = make([]uint64, s.words)
	empty[0][0] = 1
	s.reach = [][][]uint64{empty}
	for i := range s.size {
		s.reach = append(s.reach, s.withSize(i, s.reach[i]))
	}
}

// withSize adds up to count[i] shims of size i to every state.
func (s *search) withSize(i int, before [][]uint64) [][]uint64 {
	after := make([][]uint64, len(before))
	for k := 0; k <= s.max; k++ {
		for t := 0; t <= k; t++ {
			after[slot(k, t)] = s.union(i, k, t, before)
		}
	}
	return after
}

// union collects the sums of (k, t) after size i: those without it, shared
// when nothing is added, and those with 1..count of it.
func (s *search) union(i, k, t int, before [][]uint64) []uint64 {
	base := before[slot(k, t)]
	owned := false
	for n := 1; n <= min(s.count[i], k); n++ {
		tn := t
		if s.thin[i] {
			tn -= n
		}
		if tn < 0 || tn > k-n {
			continue
		}
		from := before[slot(k-n, tn)]
		if from == nil {
			continue
		}
		if !owned {
			base = append(make([]uint64, 0, s.words), base...)
			base = base[:cap(base)][:s.words]
			owned = true
		}
		orShifted(base, from, n*s.size[i])
	}
	return base
}

// orShifted sets dst |= src << shift.
func orShifted(dst, src []uint64, shift int) {
	word, bit := shift/64, uint(shift%64)
	for i := len(dst) - 1; i >= word; i-- {
		v := src[i-word] << bit
		if bit > 0 && i-word > 0 {
			v |= src[i-word-1] >> (64 - bit)
		}
		dst[i] |= v
	}
}

func (s *search) reaches(i, k, t, sum int) bool {
	set := s.reach[i][slot(k, t)]
	return sum >= 0 && sum/64 < len(set) && set[sum/64]>>(sum%64)&1 == 1
}

// sumsByError lists the reachable sums, nearest to wanted first.
func (s *search) sumsByError() []int {
	any := make([]uint64, s.words)
	for _, set := range s.reach[len(s.size)] {
		for w := range set {
			any[w] |= set[w]
		}
	}
	var sums []int
	for w, set := range any {
		for ; set != 0; set &= set - 1 {
			sums = append(sums, w*64+bits.TrailingZeros64(set))
		}
	}
	aim := float64(s.wanted / grid)
	sort.Slice(sums, func(i, j int) bool {
		return math.Abs(float64(sums[i])-aim) < math.Abs(float64(sums[j])-aim)
	})
	return sums
}

// packsOf writes out up to limit packs of one sum, fewest shims first, then
// fewest thin.
func (s *search) packsOf(sum, limit int) []Pack {
	var packs []Pack
	for k := 0; k <= s.max; k++ {
		for t := 0; t <= k; t++ {
			s.walk(len(s.size), k, t, sum, make([]int, len(s.size)), &packs, limit)
			if len(packs) >= limit {
				return packs
			}
		}
	}
	return packs
}

// walk unwinds the table from the thinnest size back; every branch it enters
// ends in a pack, so its work is bounded by what it returns.
func (s *search) walk(i, k, t, sum int, of []int, packs *[]Pack, limit int) {
	if len(*packs) >= limit || !s.reaches(i, k, t, sum) {
		return
	}
	if i == 0 {
		*packs = append(*packs, s.pack(of))
		return
	}
	for n := 0; n <= min(s.count[i-1], k); n++ {
		tn := t
		if s.thin[i-1] {
			tn -= n
		}
		if tn < 0 || tn > k-n {
			continue
		}
		of[i-1] = n
		s.walk(i-1, k-n, tn, sum-n*s.size[i-1], of, packs, limit)
	}
	of[i-1] = 0
}

func (s *search) pack(of []int) Pack {
	p := Pack{counts: slices.Clone(of)}
	sum := int64(0)
	for i, n := range of {
		if n == 0 {
			continue
		}
		p.Of = append(p.Of, Pick{s.index[i], n})
		sum += int64(n) * nanometres(s.stock[s.index[i]].Thickness)
		p.Shims += n
		if s.thin[i] {
			p.Thin += n
		}
	}
	p.Sum = quantity.Length(float64(sum) / 1e9)
	return p
}
