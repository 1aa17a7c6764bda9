package postgres_test

import (
	"bytes"
	"context"
	"database/sql"
	"image"
	"image/jpeg"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/book/demo"
	"handwerk/book/files"
	bookshop "handwerk/book/shop"
	"handwerk/picture"
	"handwerk/postgres"
	"handwerk/postgres/cluster"
	"handwerk/postgres/pgtest"
	"handwerk/report"
	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/seal"
	"handwerk/workshop/shop"
	"handwerk/workshop/walk"
)

// What the tests of this room stand on: a shop on a database of its own.

var lead = people.Person{Login: "ilva", Name: "Ilva Torn", Role: people.Lead}

// demoBook is read once; nothing writes in it.
var demoBook = sync.OnceValues(func() (book.Book, error) {
	return files.Load(kinds.Natures(), bookshop.Files,
		demo.Files)
})

// bench is a workshop on a new database with one vehicle and a drawer.
type bench struct {
	*workshop.Workshop
	store *postgres.Store
	url   string
	begun time.Time
	ticks atomic.Int64
}

// tick is the shop's clock: a minute on at every look, whoever looks.
func (s *bench) tick() time.Time { s.ticks.Add(1); return s.now() }

func (s *bench) now() time.Time { return s.begun.Add(time.Duration(s.ticks.Load()) * time.Minute) }

func TestMain(m *testing.M) { pgtest.Main(m) }

func newShop(t testing.TB) *bench {
	t.Helper()
	return openShop(t, pgtest.URL(t))
}

func openShop(t testing.TB, url string) *bench {
	t.Helper()
	ctx := context.Background()
	store := pgtest.Open(t, url)
	b, err := demoBook()
	require.NoError(t, err)
	s := &bench{store: store, url: url, begun: time.Date(2026, 11, 24, 8, 0, 0, 0, time.UTC)}
	s.Workshop = workshop.New(store, b, s.tick)
	fleet := []shop.Vehicle{{ID: "v", Name: "Launch carrier", Owner: "Sea rescue", Units: []shop.Unit{
		{ID: "tc", Kind: "transfer case", Name: "Brakka T2", Serial: "1", Sheet: "brakka-t2",
			Route: "transfer-case-dog"},
		{
			ID:     "axle",
			Kind:   "differential",
			Name:   "Brakka A9",
			Serial: "2",
			Sheet:  "brakka-a9",
			Route:  "axle-ring-pinion",
		},
	}}}
	require.NoError(t, store.KeepFleet(ctx, fleet, []postgres.StockLine{
		{Drawer: "thrust-washers", Thickness: "0.52 mm", Name: "thrust washer", Count: 1},
	}))
	return s
}

func (s *bench) open(t testing.TB) record.Rebuild { return s.openUnit(t, "tc") }

func (s *bench) openUnit(t testing.TB, unit string) record.Rebuild {
	t.Helper()
	order := workshop.Order{Vehicle: "v", Unit: unit, Complaint: "bangs under load", Promised: "2026-12-01"}
	r, _, err := s.Open(context.Background(), order, lead, "open "+t.Name()+s.now().String())
	require.NoError(t, err)
	return r
}

// walk takes a rebuild to a step, through the store.
func (s *bench) walk(t testing.TB, id, until string) {
	t.Helper()
	ledger, err := s.store.Ledger(context.Background(), id)
	require.NoError(t, err)
	w := &walk.Walker{
		Ledger: ledger, Script: walk.Script{}, By: func(*record.Step) people.Person { return lead },
		Clock: s.tick,
		Apply: func(step string, _ record.Draft, p record.Proposal) error {
			_, _, err := s.store.Append(
				context.Background(), id, workshop.Write{Key: "walk " + p.Entry.ID},
				func(record.Ledger) (record.Proposal, error) { return p, nil },
			)
			return err
		},
	}
	_, err = w.WalkUntil(until)
	require.NoError(t, err)
}

func (s *bench) raw(t testing.TB) *sql.DB {
	t.Helper()
	db, err := sql.Open("pgx", pgtest.OwnerURL(s.url))
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	return db
}

// verified proves everything and gives the faults.
func (s *bench) verified(t testing.TB, key *seal.ShopKey, kept ...seal.Checkpoint) (postgres.Verified, []error) {
	t.Helper()
	var found []error
	v, err := s.store.VerifyAll(context.Background(), key, kept, func(err error) { found = append(found, err) })
	require.NoError(t, err)
	return v, found
}

func outcome(item, outcome string) record.Draft {
	return record.Draft{Item: record.ReadPlace(item), Says: &acts.Outcome{Outcome: outcome}}
}

// photo keeps a small picture and shows it at a note.
func (s *bench) photo(t testing.TB, rebuild string) workshop.Photo {
	t.Helper()
	var raw bytes.Buffer
	require.NoError(t, jpeg.Encode(&raw, image.NewGray(image.Rect(0, 0, 30, 20)), nil))
	taken, err := picture.Take(context.Background(), raw.Bytes())
	require.NoError(t, err)
	p, err := s.KeepPhoto(context.Background(), rebuild, taken, "", lead)
	require.NoError(t, err)
	_, _, err = s.Append(
		context.Background(), workshop.Asking{}, rebuild, "identify",
		record.Draft{Says: &acts.Note{Pictured: acts.Pictured{Photo: p.ID}}}, lead, "photo "+p.ID,
	)
	require.NoError(t, err)
	return p
}

func (s *bench) archive(t testing.TB, number string) []byte {
	t.Helper()
	ctx := context.Background()
	l, err := s.store.LedgerByNumber(ctx, number)
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, report.WriteArchive(&out, l, s.store.Photos(ctx, l.Rebuild.ID)))
	return out.Bytes()
}

// take imports an archive.
func (s *bench) take(raw []byte) error {
	a, err := report.ReadArchive(bytes.NewReader(raw))
	if err != nil {
		return err
	}
	_, err = s.store.Import(context.Background(), a.Ledger, a.Photos(context.Background()))
	return err
}

// migrated brings a new cluster's schema up to date.
func migrated(t testing.TB, c *cluster.Cluster) {
	t.Helper()
	ctx := context.Background()
	role, err := postgres.RoleOf(c.URL)
	require.NoError(t, err)
	owner, err := postgres.Open(ctx, c.OwnerURL, postgres.Options{Patient: true})
	require.NoError(t, err)
	require.NoError(t, owner.Migrate(ctx))
	require.NoError(t, owner.Grant(ctx, role))
	require.NoError(t, owner.Close())
}
