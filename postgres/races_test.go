package postgres_test

import (
	"context"
	"fmt"
	"os"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/core/quantity"
	"handwerk/postgres/pgtest"
	"handwerk/workshop"
	"handwerk/workshop/shop"
)

// A drawer is counted backwards while its sizes are taken forwards: neither
// waits for the other for good, and nobody gets an error.
func TestCountingADrawerDoesNotStopFitting(t *testing.T) {
	t.Parallel()
	s := newShop(t)
	ctx := t.Context()
	count := quantity.Count(1000)
	lines := make([]shop.DrawerLine, 12)
	for i := range lines {
		lines[i] = shop.DrawerLine{Size: fmt.Sprintf("%d.5 mm", i+1), Count: &count}
	}
	_, err := s.Drawers.Set(ctx, shop.DrawerName{ID: "shims"}, lines, "counted", lead)
	require.NoError(t, err)
	slices.Reverse(lines)
	db := s.raw(t)
	var wg sync.WaitGroup
	for range 4 {
		wg.Go(func() {
			for range 15 {
				_, err := s.Drawers.Set(ctx, shop.DrawerName{ID: "shims"}, lines, "counted", lead)
				assert.NoError(t, err)
			}
		})
		wg.Go(func() { // as an entry takes its pack: the rows in the order of their sizes
			for range 15 {
				tx, err := db.BeginTx(ctx, nil)
				if !assert.NoError(t, err) {
					return
				}
				for _, size := range []string{"1.5 mm", "10.5 mm", "12.5 mm", "4.5 mm", "9.5 mm"} {
					_, err = tx.ExecContext(
						ctx,
						`UPDATE drawer_item SET count = count - 1 WHERE drawer = 'shims' AND thickness = $1`,
						size,
					)
					assert.NoError(t, err)
				}
				assert.NoError(t, tx.Commit())
			}
		})
	}
	wg.Wait()
}

// One thickness is one line, whatever it is called.
func TestOneThicknessIsOneLine(t *testing.T) {
	t.Parallel()
	s := newShop(t)
	three, four := quantity.Count(3), quantity.Count(4)
	_, err := s.Drawers.Set(t.Context(), shop.DrawerName{ID: "shims"},
		[]shop.DrawerLine{{Size: "0.5 mm", Count: &three}}, "counted", lead)
	require.NoError(t, err)
	pages, err := s.Drawers.Set(t.Context(), shop.DrawerName{ID: "shims"},
		[]shop.DrawerLine{{Size: "500 µm", Count: &four}}, "counted", lead)
	require.NoError(t, err)
	i := slices.IndexFunc(pages, func(p shop.DrawerPage) bool { return p.ID == "shims" })
	require.Len(t, pages[i].Items, 1)
	assert.Equal(t, shop.DrawerItem{Size: "0.5 mm", Count: 4}, pages[i].Items[0])
	_, err = s.Drawers.Set(
		t.Context(), shop.DrawerName{ID: "shims"},
		[]shop.DrawerLine{{Size: "0.7 mm", Count: &three}, {Size: "0.70 mm", Count: &four}}, "counted", lead,
	)
	assert.ErrorContains(t, err, "each size once")
}

// Somebody is erased while a rebuild of his opens: either it is refused, or he
// is not erased; no link is left that leads to nobody. Erasing again is fine.
func TestErasingWhileARebuildOpens(t *testing.T) {
	t.Parallel()
	s := newShop(t)
	ctx := t.Context()
	for i := range 12 {
		c, _, err := s.Fleet.AddCustomer(ctx, shop.Customer{Name: fmt.Sprintf("Nora %d", i), Phone: "1"}, lead)
		require.NoError(t, err)
		v, err := s.Fleet.AddVehicle(ctx, shop.Vehicle{Name: "Lorry", Customer: c.ID}, lead)
		require.NoError(t, err)
		u, err := s.Fleet.AddUnit(ctx, v.ID, shop.Unit{Name: "Grim", Serial: fmt.Sprint(i),
			Route: "transfer-case-dog"}, lead)
		require.NoError(t, err)
		var opened, erased error
		var wg sync.WaitGroup
		wg.Go(func() {
			_, _, opened = s.Open(
				ctx, workshop.Order{Vehicle: v.ID, Unit: u.ID, Complaint: "bangs", Promised: "2026-12-20"}, lead,
				fmt.Sprint("open ", i),
			)
		})
		wg.Go(func() { erased = s.store.EraseCustomer(ctx, c.ID, time.Now()) })
		wg.Wait()
		assert.True(t, opened == nil || erased == nil, "%v, %v", opened, erased)
		if erased == nil {
			require.NoError(t, s.store.EraseCustomer(ctx, c.ID, time.Now()), "again")
			_, err = s.Fleet.AddVehicle(ctx, shop.Vehicle{Name: "Another", Customer: c.ID}, lead)
			assert.Error(t, err, "nobody's vehicle")
		}
		var links int
		require.NoError(
			t,
			s.raw(t).QueryRow(
				`SELECT count(*) FROM rebuild_customer k JOIN customer c ON c.id = k.customer_id WHERE c.erased_at IS NOT NULL`,
			).
				Scan(&links),
		)
		assert.Zero(t, links)
	}
}

// A customer's name is in no log of the database server, whatever is refused.
//
// Alone: it reads the log of the server that all share.
func TestNamesStayOutOfTheServersLog(t *testing.T) {
	s := newShop(t)
	ctx := t.Context()
	one, _, err := s.Fleet.AddCustomer(ctx, shop.Customer{Name: "Quintessa Vorn", Phone: "77"}, lead)
	require.NoError(t, err)
	two, _, err := s.Fleet.AddCustomer(ctx, shop.Customer{Name: "Somebody else", Phone: "78"}, lead)
	require.NoError(t, err)
	two.Name, two.Phone = one.Name, one.Phone
	err = s.Fleet.ChangeCustomer(ctx, two, lead)
	require.ErrorContains(t, err, "Quintessa Vorn")
	_, _ = s.raw(t).ExecContext(
		context.WithoutCancel(ctx),
		`UPDATE customer SET known_as = (SELECT known_as FROM customer WHERE name = 'Quintessa Vorn') WHERE name = 'Somebody else'`,
	)
	logs := pgtest.Logs()
	require.NotEmpty(t, logs)
	var all string
	require.Eventually(t, func() bool {
		all = ""
		for _, log := range logs {
			raw, err := os.ReadFile(log)
			require.NoError(t, err)
			all += string(raw)
		}
		return strings.Contains(all, "customer_known_as_key")
	}, time.Minute, 50*time.Millisecond, "the refusal itself is logged")
	assert.NotContains(t, strings.ToLower(all), "quintessa")
}
