package report_test

import (
	"bytes"
	"image"
	"image/jpeg"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/quantity"
	"handwerk/picture"
	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/paper"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
)

// The first page is for who reads one: what was told, agreed, found, fitted, how
// it came out, what is open, and where to sign; the rest follows on its own.
func TestTheFirstPageSaysHowItWent(t *testing.T) {
	t.Parallel()
	rec := paper.MakeRecord(finished(t))
	rec.Rebuild.Told = "Ready on Friday if the seal comes"
	rec.Rebuild.Whose = &shop.Whose{Registration: "SK 442"}
	rec.Summary.Open = []string{"Road test, after: lamp: comes on (wiring, customer knows)"}
	first, _, _ := strings.Cut(printedFor(t, rec, none,
		shop.Shop{Name: "Quay shop", Address: "Harbour lane 4", Zone: "Europe/Lisbon"}), "\f")
	for _, words := range []string{
		"Quay shop, Harbour lane 4", "SK 442", "Ready on Friday if the seal comes", "Europe/Lisbon", "Agreed",
		"Repair, rebuild or replace? Rebuild here",
		"Fitted", "New: ", "Measured: ", "Tightened to its last pass: ", "Proved: ",
		"lamp: comes on (wiring, customer knows)",
		"workshop, day and name", "customer, day and name",
	} {
		assert.Contains(t, first, words)
	}
	assert.NotContains(t, first, "Serial number on the transfer case", "the steps begin on the next page")
}

// What the house pays and reckons with is not for the customer's paper.
func TestNoPriceOfTheHouseIsPrinted(t *testing.T) {
	t.Parallel()
	l := finished(t)
	price := quantity.MoneyOf(87.65)
	var parts record.Step
	for _, st := range l.Plan.Route.Stations {
		for _, s := range st.Steps {
			if s.Kind == book.Order {
				found, _ := l.Plan.Step(s.ID)
				parts = *found
			}
		}
	}
	lead := people.Person{Login: "runa.v", Name: "Runa Vesk", Role: people.Lead}
	say := func(step string, d record.Draft) {
		p, err := record.Propose(l, step, d, lead, l.Entries[len(l.Entries)-1].At.Add(time.Hour))
		require.NoError(t, err)
		l = p.After
	}
	signed := l.Entries[len(l.Entries)-1]
	say(signed.Step, record.Draft{Supersedes: signed.ID, Says: &acts.Strike{Reason: "one part more"}})
	say(parts.ID, record.Draft{Says: &acts.Wanted{Lines: []acts.OrderLine{{Name: "Odd shim", Price: &price}}}})
	rec := paper.MakeRecord(l)
	text := printed(t, rec)
	assert.Contains(t, text, "Odd shim")
	for _, hidden := range []string{"87.65", "runa.v"} {
		assert.NotContains(t, text, hidden)
	}
}

func TestAPictureHasItsCaption(t *testing.T) {
	t.Parallel()
	rec := paper.MakeRecord(finished(t))
	line := &rec.Stations[0].Steps[1].Lines[0]
	line.Photo, line.Paper = "p1", "as it came, on the trailer"
	var raw bytes.Buffer
	require.NoError(t, jpeg.Encode(&raw, image.NewRGBA(image.Rect(0, 0, 40, 30)), nil))
	one := workshop.Photo{ID: "p1", Picture: picture.Picture{Type: "image/jpeg", Width: 40, Height: 30,
		Bytes: raw.Bytes()}}
	text := printedFor(t, rec, func(yield func(workshop.Photo, error) bool) { yield(one, nil) }, shop.Shop{})
	assert.Contains(t, text, rec.Stations[0].Steps[1].Title+": as it came, on the trailer, "+say.Moment(line.At, nil))
}
