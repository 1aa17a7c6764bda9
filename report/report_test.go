package report_test

import (
	"bytes"
	"encoding/json"
	"image"
	"image/jpeg"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book"
	"handwerk/core/plan"
	"handwerk/core/quantity"
	"handwerk/report"
	"handwerk/workshop"
)

// finished is a rebuild walked to its signature, with one reading struck.
func finished(t testing.TB) workshop.Ledger {
	t.Helper()
	b, err := book.Load(book.Shop(), book.Demo())
	require.NoError(t, err)
	c, err := b.Copy("transfer-case-dog", "brakka-t2")
	require.NoError(t, err)
	p, err := workshop.NewPlan(c)
	require.NoError(t, err)
	clock := time.Date(2026, 11, 3, 8, 0, 0, 0, time.UTC)
	lead := workshop.Person{Login: "ilva", Name: "Ilva Torn", Role: workshop.Lead}
	r := workshop.Rebuild{
		ID: "01a21011-0000-7000-8000-000000000001", Number: "26-001", Complaint: "Howls <on> the hill & back", OpenedAt: clock, OpenedBy: lead, PlanHash: p.Hash, Promised: "2026-11-13",
		Vehicle: workshop.Vehicle{ID: "o", Name: "Observatory truck", Owner: "Hill observatory"}, Unit: workshop.Unit{Name: "Brakka T2", Serial: "BT2-0188"},
	}
	r.Head.Hash = r.Seal()
	reading, err := quantity.Parse("0.10 mm")
	require.NoError(t, err)
	w := &workshop.Walker{
		Ledger: workshop.Ledger{Rebuild: r, Plan: p, Drawer: func(string) (workshop.Drawer, error) { return workshop.Drawer{}, nil }, Photo: func(string) (bool, error) { return false, nil }},
		Script: workshop.Script{"end-float": {{Act: workshop.ActReading, Body: workshop.Body{Value: reading, Instrument: "indicator-4"}}}},
		By:     func(plan.Step) workshop.Person { return lead },
		Clock:  func() time.Time { clock = clock.Add(4 * time.Minute); return clock },
	}
	_, err = w.WalkUntil("")
	require.NoError(t, err)
	require.True(t, w.Ledger.Rebuild.Place.Closed)
	return w.Ledger
}

func archiveOf(t testing.TB, l workshop.Ledger) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, report.WriteArchive(&out, l, nil))
	return out.Bytes()
}

func TestAnArchiveReadsBack(t *testing.T) {
	l := finished(t)
	raw := archiveOf(t, l)
	back, photos, err := report.ReadArchive(bytes.NewReader(raw))
	require.NoError(t, err)
	assert.Empty(t, photos)
	assert.Equal(t, l.Rebuild, back.Rebuild)
	assert.Len(t, back.Entries, len(l.Entries))

	var pretty bytes.Buffer
	require.NoError(t, json.Indent(&pretty, raw, "", "  "))
	_, _, err = report.ReadArchive(&pretty)
	assert.NoError(t, err, "laid out for reading it says the same")
}

func TestForeignAndBrokenArchivesAreRefused(t *testing.T) {
	raw := string(archiveOf(t, finished(t)))
	for name, tt := range map[string]struct{ text, says string }{
		"not JSON":         {"PK\x03\x04", "not readable JSON"},
		"cut off":          {raw[:len(raw)/2], "cut off"},
		"foreign":          {`{"format":"other/1"}`, `says format "other/1"`},
		"no format":        {`{}`, "format"},
		"entry changed":    {strings.Replace(raw, `"outcome":"rebuild"`, `"outcome":"exchange"`, 1), "not what was written"},
		"order changed":    {strings.Replace(raw, "BT2-0188", "BT2-0189", 1), "26-001"},
		"plan changed":     {strings.Replace(raw, `"value":0.15`, `"value":0.95`, 1), "copy of the book"},
		"unknown field":    {strings.Replace(raw, `{"format"`, `{"extra":1,"format"`, 1), "extra"},
		"picture invented": {strings.Replace(raw, `"photos":[]`, `"photos":[{"id":"x","sha256":"00","type":"image/jpeg","width":1,"height":1,"by":{"login":"","name":"","role":""},"at":"2026-11-03T08:00:00Z","bytes":"QUJD"}]`, 1), "picture x"},
	} {
		t.Run(name, func(t *testing.T) {
			require.NotEqual(t, raw, tt.text)
			_, _, err := report.ReadArchive(strings.NewReader(tt.text))
			var broken report.Broken
			require.ErrorAs(t, err, &broken)
			assert.Contains(t, err.Error(), tt.says)
		})
	}
}

// pdftotext, from Debian's poppler, reads what a reader of the print would.
func TestThePrintSaysWhatTheRecordSays(t *testing.T) {
	var out, again bytes.Buffer
	rec := workshop.MakeRecord(finished(t))
	require.NoError(t, report.WritePDF(&out, rec, nil))
	require.NoError(t, report.WritePDF(&again, rec, nil))
	assert.Equal(t, out.Bytes(), again.Bytes(), "the same record gives the same bytes")

	name := filepath.Join(t.TempDir(), "record.pdf")
	require.NoError(t, os.WriteFile(name, out.Bytes(), 0o600))
	text, err := exec.Command("pdftotext", "-layout", name, "-").CombinedOutput()
	require.NoError(t, err, string(text))
	for _, words := range []string{
		"26-001", "Brakka T2, Observatory truck", "Howls <on> the hill & back", "Ilva Torn, lead", "read 0.10 mm, Dial indicator no. 4",
		"pass 1, bolt 5: 13 lb-ft", "Thrust washer in", "caution read: The unit drops", "Change the oil after 500 km", "no promise that the vehicle is safe",
	} {
		assert.Contains(t, string(text), words)
	}
}

// pdftoppm, from the same package, draws the pages; a record with pictures has
// them on its last page.
func TestPicturesArePrinted(t *testing.T) {
	var picture bytes.Buffer
	require.NoError(t, jpeg.Encode(&picture, image.NewGray(image.Rect(0, 0, 400, 300)), nil))
	var photos []workshop.Photo
	for range 5 {
		photos = append(photos, workshop.Photo{Type: "image/jpeg", Width: 400, Height: 300, Bytes: picture.Bytes()})
	}
	var plain, illustrated bytes.Buffer
	rec := workshop.MakeRecord(finished(t))
	require.NoError(t, report.WritePDF(&plain, rec, nil))
	require.NoError(t, report.WritePDF(&illustrated, rec, photos))
	name := filepath.Join(t.TempDir(), "record.pdf")
	require.NoError(t, os.WriteFile(name, illustrated.Bytes(), 0o600))
	listed, err := exec.Command("pdfimages", "-list", name).CombinedOutput()
	require.NoError(t, err, string(listed))
	assert.Equal(t, 5, strings.Count(string(listed), " jpeg "))
	assert.Greater(t, illustrated.Len(), plain.Len())
}

func TestAnUnsignedRecordSaysSo(t *testing.T) {
	rec := workshop.MakeRecord(finished(t))
	rec.SignedAt, rec.SignedBy = nil, ""
	rec.Rebuild.Complaint = strings.Repeat("a very long story ", 40)
	var out bytes.Buffer
	require.NoError(t, report.WritePDF(&out, rec, nil))
	name := filepath.Join(t.TempDir(), "record.pdf")
	require.NoError(t, os.WriteFile(name, out.Bytes(), 0o600))
	text, err := exec.Command("pdftotext", "-layout", name, "-").CombinedOutput()
	require.NoError(t, err)
	assert.Contains(t, string(text), "not signed: the work is not finished")
	assert.Contains(t, string(text), "a very long story")
}

func FuzzReadArchive(f *testing.F) {
	f.Add([]byte(`{"format":"handwerk-archive/1"}`))
	f.Add([]byte(`{"format":"handwerk-archive/1","plan":{"route":{"stations":[{"steps":[{"kind":"torque"}]}]}},"entries":[{}]}`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		_, _, _ = report.ReadArchive(bytes.NewReader(raw))
	})
}
