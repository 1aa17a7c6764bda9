package workshop_test

import (
	"slices"
	"sync"
	"time"

	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/book/demo"
	"handwerk/book/files"
	bookshop "handwerk/book/shop"
	"handwerk/core/quantity"
	"handwerk/core/quantity/quantitytest"
	"handwerk/core/shim"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/walk"
)

// statuses says where every step stands, for comparing states.
func statuses(s *record.State) map[string]string {
	all := map[string]string{}
	for _, step := range s.Plan.Steps {
		status, needs := s.Status(step)
		all[step.ID] = string(status) + " " + record.NeedWords(s, step, needs)
	}
	return all
}

// unfolded is the ledger as it comes from anywhere.
func unfolded(l record.Ledger) record.Ledger {
	return record.Ledger{
		Rebuild:  l.Rebuild,
		Plan:     l.Plan,
		Entries:  l.Entries,
		Zone:     l.Zone,
		Units:    l.Units,
		Currency: l.Currency,
		Asks:     l.Asks,
	}
}

// bench is a rebuild in memory: the pure rules need no store.
type bench struct {
	t      require.TestingT
	ledger record.Ledger
	now    time.Time
	drawer map[string]int
}

// demoBook is read once; nothing writes in it.
var demoBook = sync.OnceValues(func() (book.Book, error) {
	return files.Load(kinds.Natures(), bookshop.Files,
		demo.Files)
})

func newBench(t require.TestingT) *bench { return benchOn(t, "transfer-case-dog", "brakka-t2") }

func benchOn(t require.TestingT, route, sheet string) *bench {
	b, err := demoBook()
	require.NoError(t, err)
	c, err := b.Copy(route, sheet)
	require.NoError(t, err)
	return benchWith(t, c)
}

// benchWith stands on a copy of the book.
func benchWith(t require.TestingT, c book.Copy) *bench {
	p, err := kinds.NewPlan(c)
	require.NoError(t, err)
	x := &bench{t: t, now: clock, drawer: map[string]int{"0.5 mm": 1, "0.52 mm": 2, "0.56 mm": 2, "0.6 mm": 1}}
	x.ledger = record.Ledger{
		Rebuild: record.Rebuild{ID: "r1", Number: "26-001", PlanHash: p.Hash, OpenedAt: clock, OpenedBy: lead},
		Plan:    p,
		Asks: record.Asks{
			Drawer: func(string) (record.Drawer, error) { return x.stock(), nil },
			Photo:  func(id string) (string, error) { return map[string]string{"p1": "a picture's hash"}[id], nil },
		},
	}
	x.ledger.Rebuild.Head = record.Head{Seq: 0, Hash: x.ledger.Rebuild.Seal()}
	return x
}

func (b *bench) stock() record.Drawer {
	var d record.Drawer
	for text, n := range b.drawer {
		l, err := quantity.ParseAs[quantity.Length](text)
		require.NoError(b.t, err)
		d = append(d, shim.StockItem{Thickness: l, Count: &n})
	}
	slices.SortFunc(d, func(a, c shim.StockItem) int { return int(1e9 * (a.Thickness.SI() - c.Thickness.SI())) })
	return d
}

func (b *bench) try(step string, d record.Draft, by people.Person) (record.Entry, error) {
	b.now = b.now.Add(time.Minute)
	p, err := record.Propose(b.ledger, step, d, by, b.now)
	if err != nil {
		return record.Entry{}, err
	}
	b.keep(p)
	return p.Entry, nil
}

func (b *bench) keep(p record.Proposal) {
	b.ledger = p.After
	for _, m := range p.Moves {
		b.drawer[m.Thickness] -= m.Count
	}
}

func (b *bench) must(step string, d record.Draft) record.Entry {
	e, err := b.try(step, d, lead)
	require.NoError(b.t, err)
	return e
}

func (b *bench) walker() *walk.Walker {
	return &walk.Walker{
		Ledger: b.ledger, By: func(*record.Step) people.Person { return lead }, Script: walk.Script{},
		Clock: func() time.Time { b.now = b.now.Add(time.Minute); return b.now },
		Apply: func(_ string, _ record.Draft, p record.Proposal) error { b.keep(p); return nil },
	}
}

func (b *bench) walkUntil(step string) {
	_, err := b.walker().WalkUntil(step)
	require.NoError(b.t, err)
}

func (b *bench) status(step string) (record.Status, string) {
	sheet := record.MakeSheet(unfolded(b.ledger))
	i := slices.IndexFunc(sheet.Steps, func(s record.StepStatus) bool { return s.ID == step })
	return sheet.Steps[i].Status, sheet.Steps[i].Needs
}

func reading(t require.TestingT, text string) record.Draft {
	return record.Draft{
		Says: &acts.Reading{
			Measured: acts.Measured{Value: quantitytest.Any(t, text)},
			Read:     acts.Read{Instrument: "indicator-4"},
		},
	}
}

func piece(t require.TestingT, text string, n int) acts.Piece {
	l, err := quantity.ParseAs[quantity.Length](text)
	require.NoError(t, err)
	return acts.Piece{Thickness: l, Count: quantity.Count(n)}
}

func reads(text string) (a quantity.Any) { _ = a.UnmarshalText([]byte(text)); return a }

func mustStep(b *bench, id string) *record.Step { s, _ := b.ledger.Plan.Step(id); return s }

// acknowledge reads a caution if the gate lets one.
func (b *bench) acknowledge(step, caution string) {
	_, _ = b.try(step, record.Draft{Item: record.ReadPlace(caution), Says: &acts.Acknowledge{}}, lead)
}

// viewAt is a step as its kind shows it to the lead.
func viewAt[V record.StepView](b *bench, step string) V {
	v, err := record.MakeStep(b.ledger, step, lead, b.now)
	require.NoError(b.t, err)
	view, ok := v.(V)
	require.True(b.t, ok)
	return view
}
