// Package learning keeps what the shop learns beside its records: how well its gauges
// repeat, and how its people practise.
package learning

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"sync"
	"time"

	"handwerk/core/metrology"
	"handwerk/core/quantity"
	"handwerk/core/shim"
	"handwerk/postgres/conn"
)

// Repeats are what the gauges' own readings have taught, of all rebuilds.
type Repeats struct {
	*conn.Link
	learned *repeats
}

// NewRepeats begins without having looked.
func NewRepeats(c *conn.Link) Repeats { return Repeats{c, &repeats{}} }

// repeats are what the gauges' own readings have taught, as they were looked up last.
type repeats struct {
	mu    sync.Mutex
	pools map[string]metrology.Pool
	until time.Time
}

// How long what was learned is taken as it is, and over how many readings it goes.
const (
	learnedFor   = 10 * time.Minute
	learnedFrom  = 5000
	selectRepeat = `SELECT e.body->>'instrument' AS gauge, e.rebuild_id, e.step, split_part(e.item, '.', 1) AS trial,
		split_part(e.method, '/', 1) AS calc, e.body->'value' AS value
		FROM entry e
		WHERE e.act = 'reading' AND e.body->>'instrument' <> '' AND e.item ~ '^[0-9]+[.][0-9]+$'
		AND NOT EXISTS (SELECT 1 FROM entry n WHERE n.supersedes = e.id)
		ORDER BY e.at DESC LIMIT $1`
)

// repeated are the calculators whose readings are of one thing, again and again;
// those of others are read at several places.
func repeated() []string { return []string{metrology.ReadingSetMethod.Name, shim.EndFloatMethod.Name} }

type readAgain struct {
	Gauge, Step, Trial, Calc string
	Rebuild                  string          `db:"rebuild_id"`
	Value                    json.RawMessage `db:"value"`
}

// Pools are what the repeat readings of each gauge over all rebuilds tell of it, by
// the gauge's id. It may be some minutes old.
func (s Repeats) Pools(ctx context.Context) (map[string]metrology.Pool, error) {
	s.learned.mu.Lock()
	defer s.learned.mu.Unlock()
	if time.Now().Before(s.learned.until) {
		return s.learned.pools, nil
	}
	var rows []readAgain
	if err := s.DB.SelectContext(ctx, &rows, selectRepeat, learnedFrom); err != nil {
		return nil, err
	}
	s.learned.pools, s.learned.until = pooled(rows), time.Now().Add(learnedFor)
	return s.learned.pools, nil
}

// pooled gathers the readings of each trial into what they say of their gauge.
func pooled(rows []readAgain) map[string]metrology.Pool {
	type trial struct{ gauge, rebuild, step, number string }
	sets := map[trial][]float64{}
	counts := map[trial]bool{}
	order := []trial{} // sums of fractions come out the same in the same order
	for _, r := range rows {
		var value quantity.Any
		if json.Unmarshal(r.Value, &value) != nil || !value.IsSaid() {
			continue
		}
		at := trial{r.Gauge, r.Rebuild, r.Step, r.Trial}
		if sets[at] == nil {
			order = append(order, at)
		}
		sets[at] = append(sets[at], value.SI())
		counts[at] = counts[at] || slices.Contains(repeated(), strings.TrimSpace(r.Calc))
	}
	pools := map[string]metrology.Pool{}
	for _, at := range order {
		if !counts[at] {
			continue
		}
		p := pools[at.gauge]
		p.Add(sets[at])
		pools[at.gauge] = p
	}
	return pools
}
