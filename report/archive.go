// Package report writes a rebuild's record for people and for other
// programs: the printed record as PDF, the whole of it as a JSON archive.
package report

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"iter"
	"time"

	"handwerk/book"
	"handwerk/picture"
	"handwerk/workshop"
	"handwerk/workshop/kinds"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

// format names the archive and its version.
const format = "handwerk-archive/1"

// An archive streams: its head is held in memory, its pictures one at a time.
const (
	maxHead  = 64 << 20
	maxPhoto = 20 << 20 // a picture in base64, and what is said of it
	// maxPhotos bounds the pictures of one rebuild.
	maxPhotos = 5000
)

// Layout is what stands in an archive, in this order. With its pictures it
// stands on its own; anybody who has it can check it.
type Layout struct {
	Format  string          `json:"format" const:"handwerk-archive/1"` // and its version
	Rebuild record.Rebuild  `json:"rebuild"`                           // the order
	Plan    book.Copy       `json:"plan"`                              // what was copied from the book; its SHA-256 is in the order
	Entries []record.Entry  `json:"entries"`                           // every one, each with the hash over it and the one before
	Photos  []ArchivedPhoto `json:"photos"`                            // every one the entries show
}

// head is the archive without its pictures, its copy of the book as written.
type head struct {
	Format  string          `json:"format"`
	Rebuild record.Rebuild  `json:"rebuild"`
	Plan    json.RawMessage `json:"plan"`
	Entries []record.Entry  `json:"entries"`
}

// ArchivedPhoto is a picture in an archive.
type ArchivedPhoto struct {
	ID     string        `json:"id"`
	SHA256 string        `json:"sha256"` // of the bytes, in hex
	Type   string        `json:"type"`   // media type
	Width  int           `json:"width"`  // in dots
	Height int           `json:"height"` // in dots
	By     people.Person `json:"by"`
	At     time.Time     `json:"at"`
	Bytes  []byte        `json:"bytes"` // in base64
}

// WriteArchive writes a rebuild as one JSON object, its pictures as they come.
func WriteArchive(w io.Writer, l record.Ledger, photos iter.Seq2[workshop.Photo, error]) error {
	l.Rebuild.Whose = nil // names stand apart from the record, here too
	raw, err := asWritten(head{format, l.Rebuild, l.Plan.Raw, l.Entries})
	if err != nil {
		return err
	}
	// The object is left open for its last field.
	if _, err := fmt.Fprintf(w, `%s,"photos":[`, raw[:len(raw)-1]); err != nil {
		return err
	}
	comma := ""
	for p, err := range photos {
		if err != nil {
			return err
		}
		raw, err := json.Marshal(ArchivedPhoto{p.ID, p.SHA256, p.Type, p.Width, p.Height, p.By, p.At, p.Bytes})
		if err != nil {
			return err
		}
		if _, err := fmt.Fprintf(w, "%s%s", comma, raw); err != nil {
			return err
		}
		comma = ","
	}
	_, err = io.WriteString(w, "]}\n")
	return err
}

// asWritten leaves texts that are sealed as they are: one that came in with a bare
// < goes out with it, for its hash covers every byte.
func asWritten(v any) ([]byte, error) {
	var out bytes.Buffer
	e := json.NewEncoder(&out)
	e.SetEscapeHTML(false)
	err := e.Encode(v)
	return bytes.TrimRight(out.Bytes(), "\n"), err
}

// Broken says why a file is not an archive that can be trusted.
type Broken struct{ Says string }

func (b Broken) Error() string { return "this archive cannot be imported: " + b.Says }

func broken(text string, args ...any) error { return Broken{fmt.Sprintf(text, args...)} }

// Archive is an archive being read.
type Archive struct {
	record.Ledger

	bounded *bounded
	in      *json.Decoder
	ended   bool // the file has no pictures
}

// ReadArchive reads and verifies an archive up to its pictures: its format,
// the plan against the hash in the order, the chain of entries, and that this
// program can keep and show it as it is. Nothing of a file that fails any of
// these is given.
func ReadArchive(r io.Reader) (*Archive, error) {
	b := &bounded{in: r, left: maxHead}
	a := &Archive{bounded: b, in: json.NewDecoder(b)}
	a.in.DisallowUnknownFields()
	h, err := a.head()
	if err != nil {
		return nil, err
	}
	a.Ledger = record.Ledger{Rebuild: h.Rebuild, Entries: h.Entries}
	if a.Plan, err = kinds.ReadPlan(h.Plan); err != nil {
		return nil, broken("its copy of the book cannot be read")
	}
	if a.Plan.Hash != h.Rebuild.PlanHash {
		return nil, broken("its copy of the book does not belong to this rebuild")
	}
	if a.Ledger, err = workshop.Import(a.Ledger); err != nil {
		return nil, broken("%s", err)
	}
	return a, nil
}

// bounded gives no more than is left; the rest of a file is too large.
type bounded struct {
	in   io.Reader
	left int
}

var errTooLarge = errors.New("too large")

func (b *bounded) Read(p []byte) (int, error) {
	if b.left <= 0 {
		return 0, errTooLarge
	}
	n, err := b.in.Read(p[:min(len(p), b.left)])
	b.left -= n
	return n, err
}

// unreadable says in words why the decoder gave up.
func unreadable(err error) error {
	switch {
	case errors.Is(err, errTooLarge):
		return broken("it is too large, or one of its pictures is over 12 MB")
	case errors.Is(err, io.EOF), errors.Is(err, io.ErrUnexpectedEOF):
		return broken("it is not readable; it may be cut off")
	}
	var syntax *json.SyntaxError
	if errors.As(err, &syntax) {
		return broken("it is not readable; it may be cut off")
	}
	return broken("%s", err)
}

// head reads the fields one after another, up to the list of pictures.
func (a *Archive) head() (head, error) {
	var h head
	if t, err := a.in.Token(); err != nil {
		return h, unreadable(err)
	} else if t != json.Delim('{') {
		return h, broken("it is not a JSON object")
	}
	read := map[string]bool{}
	for more := true; more; {
		var err error
		if more, err = a.field(&h, read); err != nil {
			return h, err
		}
	}
	for _, name := range []string{"format", "rebuild", "plan", "entries"} {
		if !read[name] {
			return h, broken("it has no %q before its photos", name)
		}
	}
	return h, h.compact()
}

// field reads one field of the head; false after the last, which is where the
// pictures begin or the object ends.
func (a *Archive) field(h *head, read map[string]bool) (more bool, err error) {
	t, err := a.in.Token()
	if err != nil {
		return false, unreadable(err)
	}
	name, ok := t.(string)
	if !ok { // the end of the object
		a.ended = true
		return false, nil
	}
	if read[name] {
		return false, broken("it has %q twice", name)
	}
	read[name] = true
	if name == "photos" {
		if t, err := a.in.Token(); err != nil || t != json.Delim('[') {
			return false, broken("its photos are not a list")
		}
		return false, nil
	}
	into, known := map[string]any{"format": &h.Format, "rebuild": &h.Rebuild, "plan": &h.Plan,
		"entries": &h.Entries}[name]
	if !known {
		return false, broken("it has an unknown field %q, or one behind its photos", name)
	}
	if err := a.in.Decode(into); err != nil {
		return false, unreadable(err)
	}
	if name == "format" && h.Format != format {
		return false, broken("it says format %q, %q is needed", h.Format, format)
	}
	return true, nil
}

// compact: a file that was laid out for reading says the same.
func (h *head) compact() error {
	texts := []*json.RawMessage{&h.Plan}
	for i := range h.Entries {
		texts = append(texts, &h.Entries[i].Body, &h.Entries[i].Result)
	}
	for _, text := range texts {
		if *text == nil {
			continue
		}
		var out bytes.Buffer
		if err := json.Compact(&out, *text); err != nil {
			return broken("an entry is not readable")
		}
		*text = out.Bytes()
	}
	return nil
}

// Photos reads the pictures, one at a time, and after the last of them holds
// the record against what came. An error is the end.
func (a *Archive) Photos(ctx context.Context) iter.Seq2[workshop.Photo, error] {
	return func(yield func(workshop.Photo, error) bool) {
		hashes := map[string]string{}
		for !a.ended && a.in.More() {
			p, err := a.anotherPhoto(ctx, hashes)
			if !yield(p, err) || err != nil {
				return
			}
		}
		if err := a.endWith(hashes); err != nil {
			yield(workshop.Photo{}, err)
		}
	}
}

// anotherPhoto reads the next picture and notes its hash.
func (a *Archive) anotherPhoto(ctx context.Context, hashes map[string]string) (workshop.Photo, error) {
	p, err := a.photo(ctx)
	if err != nil {
		return p, err
	}
	if _, twice := hashes[p.ID]; twice || len(hashes) >= maxPhotos {
		return p, broken("it has picture %s twice, or more than %d pictures", p.ID, maxPhotos)
	}
	hashes[p.ID] = p.SHA256
	return p, nil
}

// endWith reads the end and holds the record against the pictures that came.
func (a *Archive) endWith(hashes map[string]string) error {
	if err := a.end(); err != nil {
		return err
	}
	if faults := record.VerifyPhotos(a.Rebuild, a.Entries, hashes); len(faults) > 0 {
		return broken("%s", faults[0])
	}
	return nil
}

// end reads what closes the file and makes sure that nothing is behind it.
func (a *Archive) end() error {
	a.bounded.left = maxPhoto
	for !a.ended {
		t, err := a.in.Token()
		if err != nil {
			return unreadable(err)
		}
		if a.ended = t == json.Delim('}'); !a.ended && t != json.Delim(']') {
			return broken("it has something behind its photos")
		}
	}
	if _, err := a.in.Token(); !errors.Is(err, io.EOF) {
		return broken("it has something behind its end")
	}
	return nil
}

// photo reads one picture and looks at it as at any that a stranger sends.
func (a *Archive) photo(ctx context.Context) (workshop.Photo, error) {
	a.bounded.left = maxPhoto
	var p ArchivedPhoto
	if err := a.in.Decode(&p); err != nil {
		return workshop.Photo{}, unreadable(err)
	}
	kept, err := picture.Kept(ctx, p.Bytes)
	switch {
	case err != nil:
		return workshop.Photo{}, broken("picture %.80q: %s", p.ID, err)
	case kept.SHA256 != p.SHA256:
		return workshop.Photo{}, broken("picture %.80q is not the one that was taken", p.ID)
	case kept.Type != p.Type || kept.Width != p.Width || kept.Height != p.Height:
		return workshop.Photo{}, broken("picture %.80q is not what the archive says it is", p.ID)
	case !say.CanonicalID(p.ID) || !say.CanonicalTime(p.At) || !p.By.Sound():
		return workshop.Photo{}, broken("picture %.80q has an id, a time or a person that cannot be", p.ID)
	}
	return workshop.Photo{ID: p.ID, Rebuild: a.Rebuild.ID, Picture: kept, By: p.By, At: p.At}, nil
}
