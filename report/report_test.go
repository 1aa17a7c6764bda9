package report_test

import (
	"bytes"
	"context"
	"encoding/json"
	"image"
	"image/jpeg"
	"io"
	"iter"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book/demo"
	"handwerk/book/files"
	bookshop "handwerk/book/shop"
	"handwerk/core/quantity/quantitytest"
	"handwerk/picture"
	"handwerk/report"
	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/paper"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
	"handwerk/workshop/shop"
	"handwerk/workshop/walk"
)

// finished is a rebuild walked to its signature, with one reading struck.
func finished(t testing.TB) record.Ledger {
	t.Helper()
	b, err := files.Load(kinds.Natures(), bookshop.Files, demo.Files)
	require.NoError(t, err)
	c, err := b.Copy("transfer-case-dog", "brakka-t2")
	require.NoError(t, err)
	p, err := kinds.NewPlan(c)
	require.NoError(t, err)
	clock := time.Date(2026, 11, 3, 8, 0, 0, 0, time.UTC)
	lead := people.Person{Login: "ilva", Name: "Ilva Torn", Role: people.Lead}
	r := record.Rebuild{
		ID: "01a21011-0000-7000-8000-000000000001", Number: "26-001", Complaint: "Howls <on> the hill & back",
		OpenedAt: clock, OpenedBy: lead, PlanHash: p.Hash, Promised: "2026-11-13",
		Vehicle: shop.Vehicle{
			ID: "o", Name: "Observatory truck", Owner: "Hill observatory",
		}, Unit: shop.Unit{Name: "Brakka T2", Serial: "BT2-0188"},
	}
	r.Head.Hash = r.Seal()
	reading := quantitytest.Any(t, "0.10 mm")
	w := &walk.Walker{
		Ledger: record.Ledger{
			Rebuild: r, Plan: p,
			Asks: record.Asks{
				Drawer: func(string) (record.Drawer, error) { return record.Drawer{}, nil },
				Photo:  func(string) (string, error) { return "", nil },
			},
		},
		Script: walk.Script{"end-float": {{Says: &acts.Reading{
			Measured: acts.Measured{Value: reading}, Read: acts.Read{Instrument: "indicator-4"},
		}}}},
		By:    func(*record.Step) people.Person { return lead },
		Clock: func() time.Time { clock = clock.Add(4 * time.Minute); return clock },
	}
	_, err = w.WalkUntil("")
	require.NoError(t, err)
	require.True(t, w.Ledger.Rebuild.Place.Closed)
	return w.Ledger
}

// none are no pictures.
func none(func(workshop.Photo, error) bool) {}

// read takes an archive in, its pictures too.
func read(in io.Reader) (record.Ledger, []workshop.Photo, error) {
	a, err := report.ReadArchive(in)
	if err != nil {
		return record.Ledger{}, nil, err
	}
	var photos []workshop.Photo
	for p, err := range a.Photos(context.Background()) {
		if err != nil {
			return a.Ledger, nil, err
		}
		photos = append(photos, p)
	}
	return a.Ledger, photos, nil
}

// printed is a record's print as pdftotext, from Debian's poppler, reads it.
func printed(t *testing.T, rec paper.Record) string {
	t.Helper()
	return printedFor(t, rec, none, shop.Shop{})
}

func printedFor(t *testing.T, rec paper.Record, photos iter.Seq2[workshop.Photo, error], shop shop.Shop) string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, report.WritePDF(&out, rec, photos, time.UTC, shop))
	name := filepath.Join(t.TempDir(), "record.pdf")
	require.NoError(t, os.WriteFile(name, out.Bytes(), 0o600))
	text, err := exec.Command("pdftotext", "-layout", name, "-").CombinedOutput()
	require.NoError(t, err, string(text))
	return string(text)
}

func archiveOf(t testing.TB, l record.Ledger) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, report.WriteArchive(&out, l, none))
	return out.Bytes()
}

func TestAnArchiveReadsBack(t *testing.T) {
	t.Parallel()
	l := finished(t)
	raw := archiveOf(t, l)
	back, photos, err := read(bytes.NewReader(raw))
	require.NoError(t, err)
	assert.Empty(t, photos)
	assert.Equal(t, l.Rebuild, back.Rebuild)
	assert.Len(t, back.Entries, len(l.Entries))

	var pretty bytes.Buffer
	require.NoError(t, json.Indent(&pretty, raw, "", "  "))
	_, _, err = read(&pretty)
	assert.NoError(t, err, "laid out for reading it says the same")
}

// The customer reads the day that was promised last, and the one before it.
func TestThePrintSaysBothPromises(t *testing.T) {
	t.Parallel()
	rec := paper.MakeRecord(finished(t))
	assert.Contains(t, printed(t, rec), "2026-11-13")
	assert.NotContains(t, printed(t, rec), "at first")
	rec.Rebuild.Place.Promised = "2026-11-20"
	assert.Contains(t, printed(t, rec), "2026-11-20, first promised 2026-11-13")
}

func TestForeignAndBrokenArchivesAreRefused(t *testing.T) {
	t.Parallel()
	raw := string(archiveOf(t, finished(t)))
	for name, tt := range map[string]struct{ text, says string }{
		"not JSON":  {"PK\x03\x04", "not readable"},
		"cut off":   {raw[:len(raw)/2], "cut off"},
		"foreign":   {`{"format":"other/1"}`, `says format "other/1"`},
		"no format": {`{}`, "format"},
		"entry changed": {strings.Replace(raw, `"outcome":"rebuild"`, `"outcome":"exchange"`, 1),
			"content was changed"},
		"order changed": {strings.Replace(raw, "BT2-0188", "BT2-0189", 1), "26-001"},
		"plan changed":  {strings.Replace(raw, `"value":0.15`, `"value":0.95`, 1), "copy of the book"},
		"unknown field": {strings.Replace(raw, `{"format"`, `{"extra":1,"format"`, 1), "extra"},
		"picture invented": {
			strings.Replace(
				raw, `"photos":[]`,
				`"photos":[{"id":"x","sha256":"00","type":"image/jpeg","width":1,"height":1,"by":{"login":"","name":"","role":""},"at":"2026-11-03T08:00:00Z","bytes":"QUJD"}]`,
				1,
			),
			`picture "x"`,
		},
	} {
		t.Run(name, func(t *testing.T) {
			require.NotEqual(t, raw, tt.text)
			_, _, err := read(strings.NewReader(tt.text))
			var broken report.Broken
			require.ErrorAs(t, err, &broken)
			assert.Contains(t, err.Error(), tt.says)
		})
	}
}

// pdftotext, from Debian's poppler, reads what a reader of the print would.
func TestThePrintSaysWhatTheRecordSays(t *testing.T) {
	t.Parallel()
	var out, again bytes.Buffer
	rec := paper.MakeRecord(finished(t))
	require.NoError(t, report.WritePDF(&out, rec, none, time.UTC, shop.Shop{}))
	require.NoError(t, report.WritePDF(&again, rec, none, time.UTC, shop.Shop{}))
	assert.Equal(t, out.Bytes(), again.Bytes(), "the same record gives the same bytes")
	text := printed(t, rec)
	for _, words := range []string{
		"26-001", "Brakka T2, Observatory truck", "Howls <on> the hill & back", "Ilva Torn, lead",
		"read 0.10 mm, Dial indicator no. 4",
		"pass 2: Ilva Torn, 2026-11-03 21:12 to 2026-11-03 22:08", "Thrust washer in", "caution confirmed: The unit drops",
		"Change the oil after 500 km", "no promise that the vehicle is safe",
	} {
		assert.Contains(t, text, words)
	}
}

// pdftoppm, from the same package, draws the pages; a record with pictures has
// them on its last page.
func TestPicturesArePrinted(t *testing.T) {
	t.Parallel()
	var raw bytes.Buffer
	require.NoError(t, jpeg.Encode(&raw, image.NewGray(image.Rect(0, 0, 400, 300)), nil))
	photos := func(yield func(workshop.Photo, error) bool) {
		for range 5 {
			yield(workshop.Photo{Picture: picture.Picture{Type: "image/jpeg", Width: 400, Height: 300,
				Bytes: raw.Bytes()}}, nil)
		}
	}
	var plain, illustrated bytes.Buffer
	rec := paper.MakeRecord(finished(t))
	require.NoError(t, report.WritePDF(&plain, rec, none, time.UTC, shop.Shop{}))
	require.NoError(t, report.WritePDF(&illustrated, rec, photos, time.UTC, shop.Shop{}))
	name := filepath.Join(t.TempDir(), "record.pdf")
	require.NoError(t, os.WriteFile(name, illustrated.Bytes(), 0o600))
	listed, err := exec.Command("pdfimages", "-list", name).CombinedOutput()
	require.NoError(t, err, string(listed))
	assert.Equal(t, 5, strings.Count(string(listed), " jpeg "))
	assert.Greater(t, illustrated.Len(), plain.Len())
}

func TestAnUnsignedRecordSaysSo(t *testing.T) {
	t.Parallel()
	rec := paper.MakeRecord(finished(t))
	rec.SignedAt, rec.SignedBy = nil, ""
	rec.Rebuild.Complaint = strings.Repeat("a very long story ", 40)
	text := printed(t, rec)
	assert.Contains(t, text, "not signed: work not finished")
	assert.Equal(t, 40, strings.Count(strings.Join(strings.Fields(text), " "), "very long"), "nothing of it is cut")
}

// What was found along the way stands on the customer's paper with what became of it.
func TestAFindIsPrinted(t *testing.T) {
	t.Parallel()
	rec := paper.MakeRecord(finished(t))
	assert.NotContains(t, printed(t, rec), "Found something else")
	rec.Found = []record.FoundLine{
		{
			Says: "Brake hose chafed through", Severity: "unsafe", Settled: "refused",
			Words: "not safe to drive, customer declined",
		},
	}
	text := printed(t, rec)
	assert.Contains(t, text, "Found something else")
	assert.Contains(t, text, "Brake hose chafed through: not safe to drive, customer declined")
}

// Whatever a person typed stands on the paper, or a mark that something does.
func TestThePrintTakesAnyText(t *testing.T) {
	t.Parallel()
	rec := paper.MakeRecord(finished(t))
	line := &rec.Stations[0].Steps[0].Lines[0]
	line.Paper = "Getriebe heult, öltropfend; η διαρροή; масло; 漏油 🔧 " + strings.Repeat("x", 3000)
	rec.Rebuild.Complaint = strings.Repeat("line\n", 900) + "the end of it"
	rec.Rebuild.Vehicle.Name = "🚒 " + strings.Repeat("wide ", 60)
	text := printed(t, rec)
	for _, words := range []string{"Getriebe heult, öltropfend", "η διαρροή", "масло", "□□ □", "the end of it"} {
		assert.Contains(t, text, words)
	}
	assert.Equal(t, 900, strings.Count(text, "line\n"), "every line is on some page")
	assert.GreaterOrEqual(t, strings.Count(text, "x"), 3000)
	assert.Equal(t, 60, strings.Count(text, "wide"))
}

func TestALongEntryGoesOnOverPages(t *testing.T) {
	t.Parallel()
	rec := paper.MakeRecord(finished(t))
	lines := &rec.Stations[0].Steps[0].Lines
	(*lines)[0].Paper = strings.Repeat("onward\n", 900) + "and done"
	(*lines)[0].Struck = true
	text := printed(t, rec)
	assert.Equal(t, 900, len(slices.DeleteFunc(strings.Fields(text), func(w string) bool { return w != "onward" })))
	assert.Contains(t, text, "and done")
}

// Times are the shop's, everywhere in the one form.
func TestThePrintTellsTheShopsTime(t *testing.T) {
	t.Parallel()
	zone := time.FixedZone("shop", 3600)
	rec := paper.MakeRecord(finished(t))
	var out bytes.Buffer
	require.NoError(t, report.WritePDF(&out, rec, none, zone, shop.Shop{}))
	name := filepath.Join(t.TempDir(), "record.pdf")
	require.NoError(t, os.WriteFile(name, out.Bytes(), 0o600))
	text, err := exec.Command("pdftotext", "-layout", name, "-").CombinedOutput()
	require.NoError(t, err)
	assert.Contains(t, string(text), "2026-11-03 09:00", "came in at 8:00 UTC")
	assert.Contains(t, string(text), say.Moment(*rec.SignedAt, zone))
}

func TestTheCheckpointIsPrinted(t *testing.T) {
	t.Parallel()
	rec := paper.MakeRecord(finished(t))
	rec.Checkpoint = "handwerk/log\n12\nQUJD\n\n— handwerk abc\n"
	assert.Contains(t, printed(t, rec), "— handwerk abc")
}

func FuzzReadArchive(f *testing.F) {
	f.Add([]byte(`{"format":"handwerk-archive/1"}`))
	f.Add(
		[]byte(
			`{"format":"handwerk-archive/1","plan":{"route":{"stations":[{"steps":[{"kind":"torque"}]}]}},"entries":[{}]}`,
		),
	)
	f.Fuzz(func(t *testing.T, raw []byte) {
		_, _, _ = read(bytes.NewReader(raw))
	})
}
