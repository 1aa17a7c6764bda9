package report_test

import (
	"bytes"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/makiuchi-d/gozxing"
	"github.com/makiuchi-d/gozxing/qrcode"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/report"
	"handwerk/workshop/paper"
)

// labels prints some and gives the file.
func labels(t *testing.T, paper report.LabelPaper, trays []paper.Tray) string {
	t.Helper()
	var out bytes.Buffer
	r := finished(t).Rebuild
	require.NoError(
		t,
		report.WriteTrayLabels(
			&out, r, trays, paper, func(tray string) string {
				return "http://127.0.0.1:8080/trays/" + r.ID +
					"?tray=" + tray
			},
		),
	)
	name := filepath.Join(t.TempDir(), "trays.pdf")
	require.NoError(t, os.WriteFile(name, out.Bytes(), 0o600))
	return name
}

// A reader that shares nothing with the writer, ZXing in Go, reads the code off
// the printed page.
func TestTheCodeOfALabelOpensItsTray(t *testing.T) {
	t.Parallel()
	name := labels(t, report.LabelPapers[2], []paper.Tray{{Name: "B7",
		Parts: []paper.TrayPart{{Name: "Thrust washer"}}}})
	base := filepath.Join(t.TempDir(), "page")
	said, err := exec.Command("pdftoppm", "-r", "300", "-png", "-singlefile", name, base).CombinedOutput()
	require.NoError(t, err, string(said))
	f, err := os.Open(base + ".png")
	require.NoError(t, err)
	defer func() { _ = f.Close() }()
	img, err := png.Decode(f)
	require.NoError(t, err)
	bitmap, err := gozxing.NewBinaryBitmapFromImage(img)
	require.NoError(t, err)
	read, err := qrcode.NewQRCodeReader().Decode(bitmap, nil)
	require.NoError(t, err)
	assert.Equal(t, "http://127.0.0.1:8080/trays/"+finished(t).Rebuild.ID+"?tray=B7", read.GetText())
}

// Every tray has its label, on as many pages as it takes; a long name is cut,
// nothing runs off.
func TestEveryTrayHasItsLabel(t *testing.T) {
	t.Parallel()
	var trays []paper.Tray
	for i := range 30 {
		tray := paper.Tray{Name: "Tray " + string(rune('A'+i%26)) + string(rune('0'+i/26))}
		for range i % 7 {
			tray.Parts = append(
				tray.Parts,
				paper.TrayPart{Name: "A bearing with a name that is much too long for any label there is"},
			)
		}
		trays = append(trays, tray)
	}
	for i, pages := range map[int]int{0: 2, 1: 2, 2: 30} {
		name := labels(t, report.LabelPapers[i], trays)
		text, err := exec.Command("pdftotext", "-layout", name, "-").CombinedOutput()
		require.NoError(t, err)
		for _, tray := range trays {
			assert.Contains(t, string(text), tray.Name)
		}
		assert.Contains(t, string(text), "and 3 more")
		assert.NotContains(t, string(text), "any label there is")
		assert.Equal(t, pages, bytes.Count(text, []byte("\f")), report.LabelPapers[i].Name)
	}
}
