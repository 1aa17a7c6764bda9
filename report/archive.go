// Package report writes a rebuild's record for people and for other
// programs: the printed record as PDF, the whole of it as a JSON archive.
package report

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"io"
	"time"

	"handwerk/workshop"
)

// format names the archive and its version.
const format = "handwerk-archive/1"

// MaxArchive bounds what Read takes in.
const MaxArchive = 256 << 20

// archive is the file: the order, its copy of the book, every entry with its
// hash, every picture. It stands on its own; whoever has it can check it.
type archive struct {
	Format  string           `json:"format"`
	Rebuild workshop.Rebuild `json:"rebuild"`
	Plan    json.RawMessage  `json:"plan"`
	Entries []workshop.Entry `json:"entries"`
	Photos  []photo          `json:"photos"`
}

type photo struct {
	ID     string          `json:"id"`
	SHA256 string          `json:"sha256"`
	Type   string          `json:"type"`
	Width  int             `json:"width"`
	Height int             `json:"height"`
	By     workshop.Person `json:"by"`
	At     time.Time       `json:"at"`
	Bytes  []byte          `json:"bytes"`
}

// WriteArchive writes a rebuild as one JSON object.
func WriteArchive(w io.Writer, l workshop.Ledger, photos []workshop.Photo) error {
	a := archive{Format: format, Rebuild: l.Rebuild, Plan: l.Plan.Raw, Entries: l.Entries, Photos: []photo{}}
	for _, p := range photos {
		a.Photos = append(a.Photos, photo{p.ID, p.SHA256, p.Type, p.Width, p.Height, p.By, p.At, p.Bytes})
	}
	return json.NewEncoder(w).Encode(a)
}

// Broken says why a file is not an archive that can be trusted.
type Broken struct{ Says string }

func (b Broken) Error() string { return "this archive cannot be taken in: " + b.Says }

func broken(text string, args ...any) error { return Broken{fmt.Sprintf(text, args...)} }

// ReadArchive reads and verifies an archive: its format, the plan against the
// hash in the order, the chain of entries, every picture against its digest.
// Nothing of a file that fails any of these is given.
func ReadArchive(r io.Reader) (workshop.Ledger, []workshop.Photo, error) {
	raw, err := io.ReadAll(io.LimitReader(r, MaxArchive+1))
	if err != nil {
		return workshop.Ledger{}, nil, err
	}
	if len(raw) > MaxArchive {
		return workshop.Ledger{}, nil, broken("it is larger than 256 MB")
	}
	a, err := decode(raw)
	if err != nil {
		return workshop.Ledger{}, nil, err
	}
	l := workshop.Ledger{Rebuild: a.Rebuild, Entries: a.Entries}
	if l.Plan, err = workshop.ReadPlan(a.Plan); err != nil {
		return l, nil, broken("its copy of the book cannot be read")
	}
	if l.Plan.Hash != a.Rebuild.PlanHash {
		return l, nil, broken("its copy of the book is not the one the rebuild was opened with")
	}
	if err := workshop.Verify(l.Rebuild, l.Entries); err != nil {
		return l, nil, broken("%s", err)
	}
	for _, e := range l.Entries {
		if _, ok := l.Plan.Step(e.Step); !ok {
			return l, nil, broken("entry %d is at a step %q that the route does not have", e.Seq, e.Step)
		}
	}
	photos, err := a.pictures()
	return l, photos, err
}

func decode(raw []byte) (archive, error) {
	var head struct {
		Format string `json:"format"`
	}
	if err := json.Unmarshal(raw, &head); err != nil {
		return archive{}, broken("it is not readable JSON; perhaps it was cut off")
	}
	if head.Format != format {
		return archive{}, broken("it says format %q, %q is needed", head.Format, format)
	}
	var a archive
	d := json.NewDecoder(bytes.NewReader(raw))
	d.DisallowUnknownFields()
	if err := d.Decode(&a); err != nil {
		return archive{}, broken("%s", err)
	}
	// A file that was laid out for reading says the same.
	for _, text := range append([]*json.RawMessage{&a.Plan}, bodies(a.Entries)...) {
		if *text == nil {
			continue
		}
		var compact bytes.Buffer
		if err := json.Compact(&compact, *text); err != nil {
			return archive{}, broken("an entry is not readable")
		}
		*text = compact.Bytes()
	}
	return a, nil
}

func bodies(entries []workshop.Entry) []*json.RawMessage {
	var texts []*json.RawMessage
	for i := range entries {
		texts = append(texts, &entries[i].Body, &entries[i].Result)
	}
	return texts
}

func (a archive) pictures() ([]workshop.Photo, error) {
	photos := []workshop.Photo{}
	for _, p := range a.Photos {
		sum := sha256.Sum256(p.Bytes)
		if hex.EncodeToString(sum[:]) != p.SHA256 {
			return nil, broken("picture %s is not the one that was taken", p.ID)
		}
		photos = append(photos, workshop.Photo{ID: p.ID, Rebuild: a.Rebuild.ID, SHA256: p.SHA256, Type: p.Type, Width: p.Width, Height: p.Height, Bytes: p.Bytes, By: p.By, At: p.At})
	}
	return photos, nil
}
