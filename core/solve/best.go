package solve

import "sort"

// Few keeps the best k of many candidates without keeping the others.
type Few[T any] struct {
	k      int
	better func(a, b T) bool
	kept   []T
}

// BestFew keeps k candidates; better says which of two comes first.
func BestFew[T any](k int, better func(a, b T) bool) *Few[T] {
	return &Few[T]{k: k, better: better}
}

// Offer considers one more. Of equals the earlier stays in front.
func (f *Few[T]) Offer(c T) {
	if len(f.kept) == f.k && !f.better(c, f.kept[f.k-1]) {
		return
	}
	at := sort.Search(len(f.kept), func(i int) bool { return f.better(c, f.kept[i]) })
	if len(f.kept) < f.k {
		f.kept = append(f.kept, c)
	}
	copy(f.kept[at+1:], f.kept[at:])
	f.kept[at] = c
}

// Best lists what was kept, best first.
func (f *Few[T]) Best() []T { return f.kept }
