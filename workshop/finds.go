package workshop

import (
	"cmp"
	"context"
	"slices"
	"strings"
)

// Find is something found along the way on a vehicle, with the rebuild in which it
// was said. The last word on it counts, whichever rebuild that was said in.
type Find struct {
	FoundLine
	Rebuild string `json:"rebuild"`
	Number  string `json:"number"`
	Vehicle string `json:"vehicle"` // id
	// Open: the customer was told, and nothing came of it yet.
	Open bool `json:"open"`
}

// advised is the settlement that leaves a find open.
const advised = "advised"

// rank puts what is open before what is settled.
func (f Find) rank() int {
	if f.Open {
		return 1
	}
	return 0
}

// FindsOn lists what was found along the way on a vehicle, what is open and grave
// first.
func (w *Workshop) FindsOn(ctx context.Context, vehicle string) ([]Find, error) {
	if v, err := w.store.Vehicle(ctx, vehicle); err != nil || v.ID == "" {
		return nil, cmp.Or(err, error(refuse(NotFound, NoSuchVehicle)))
	}
	list, err := w.store.FoundIn(ctx, []string{vehicle})
	if err != nil {
		return nil, err
	}
	return w.findsIn(ctx, list)
}

// findsIn reads the finds of rebuilds that were listed, the oldest first.
func (w *Workshop) findsIn(ctx context.Context, list []Rebuild) ([]Find, error) {
	ledgers, err := w.store.Ledgers(ctx, list)
	if err != nil {
		return nil, err
	}
	all := []Find{}
	for _, l := range ledgers {
		for _, f := range l.State().found() {
			all = latest(all, Find{
				FoundLine: f, Rebuild: l.Rebuild.ID, Number: l.Rebuild.Number, Vehicle: l.Rebuild.Vehicle.ID, Open: f.Settled == advised,
			})
		}
	}
	slices.SortStableFunc(all, func(a, b Find) int {
		return cmp.Or(b.rank()-a.rank(), graveness(b.Severity)-graveness(a.Severity))
	})
	return all, nil
}

// latest puts a find in the place of what was said of the same thing before.
func latest(all []Find, f Find) []Find {
	same := func(x Find) bool { return x.Vehicle == f.Vehicle && strings.EqualFold(plain(x.Says), plain(f.Says)) }
	if i := slices.IndexFunc(all, same); i >= 0 {
		if !f.At.Before(all[i].At) {
			all[i] = f
		}
		return all
	}
	return append(all, f)
}

// plain is a text by its words alone.
func plain(s string) string { return strings.Join(strings.Fields(strings.TrimRight(s, " .!")), " ") }
