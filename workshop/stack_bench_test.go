package workshop_test

import (
	"fmt"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
)

// BenchmarkAStackOf400Parts is the step as the bench asks for it, with a
// picture at every seventh of 400 parts; the slowest of a hundred is told too.
func BenchmarkAStackOf400Parts(b *testing.B) {
	all, err := demoBook()
	require.NoError(b, err)
	c, err := all.Copy("transfer-case-dog", "brakka-t2")
	require.NoError(b, err)
	c.Route.Stations = slices.Clone(c.Route.Stations)
	for i, st := range c.Route.Stations {
		c.Route.Stations[i].Steps = slices.Clone(st.Steps)
		for k, s := range st.Steps {
			if s.ID == "strip" {
				c.Route.Stations[i].Steps[k].Parts = many(benchParts)
			}
		}
	}
	x := benchWith(b, c)
	x.ledger.Rebuild.Promised = "2026-12-24"
	x.walkUntil("strip")
	for i, p := range many(benchParts) {
		off := &acts.Removed{Outcome: "removed", Tray: fmt.Sprintf("tray %d", i/8+1)}
		if i%7 == 0 {
			off.Photo = "p1"
		}
		x.must("strip", record.Draft{Item: record.ReadPlace(p.ID), Says: off})
	}
	x.walkUntil("parts-here")
	for _, step := range []string{"strip", "parts", "parts-here"} {
		b.Run(step, func(b *testing.B) {
			var took []time.Duration
			for b.Loop() {
				begun := time.Now()
				_, err := record.MakeStep(x.ledger, step, mechanic, x.now)
				require.NoError(b, err)
				took = append(took, time.Since(begun))
			}
			slices.Sort(took)
			b.ReportMetric(float64(took[len(took)*99/100].Microseconds())/1000, "p99-ms")
		})
	}
}

const benchParts = 400

func many(n int) (parts []book.Part) {
	for i := range n {
		parts = append(parts, book.Part{ID: fmt.Sprintf("part-%d", i), Name: fmt.Sprintf("Part %d", i),
			Once: i%5 == 0, Shape: "gear"})
	}
	return parts
}
