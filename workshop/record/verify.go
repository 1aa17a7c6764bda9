package record

import (
	"fmt"

	"handwerk/workshop/acts"
)

// Tampered tells where a record does not follow from what was written.
type Tampered struct {
	Rebuild string
	Seq     int
	Says    string
}

// Error says where.
func (t Tampered) Error() string {
	return fmt.Sprintf("%s, entry %d: %s", t.Rebuild, t.Seq, t.Says)
}

// Verify recomputes the chain of a rebuild from its seal to its head.
func Verify(r Rebuild, entries []Entry) error {
	before := r.Seal()
	for i, e := range entries {
		if e.Seq != i+1 {
			return Tampered{
				r.Number, i + 1,
				fmt.Sprintf("the record jumps to entry %d: an entry is missing or was inserted", e.Seq),
			}
		}
		if e.Chain(before) != e.Hash {
			return Tampered{r.Number, e.Seq, "its content was changed after it was written"}
		}
		before = e.Hash
	}
	if r.Head.Seq != len(entries) || r.Head.Hash != before {
		return Tampered{r.Number, r.Head.Seq, "the end of the record is missing, or its order was changed"}
	}
	return nil
}

// VerifyPhotos holds every entry that shows a picture against the digests of
// the pictures that are there, by id. Entries from before digests were written
// down only need their picture to be there.
func VerifyPhotos(r Rebuild, entries []Entry, hashes map[string]string) []error {
	var faults []error
	for _, e := range entries {
		said := acts.PictureOf(e.ReadAct())
		if said == nil || said.Photo == "" {
			continue
		}
		now, there := hashes[said.Photo]
		switch {
		case !there:
			faults = append(faults, Tampered{r.Number, e.Seq, "its picture is gone"})
		case said.PhotoHash != "" && said.PhotoHash != now:
			faults = append(faults, Tampered{r.Number, e.Seq, "its picture was changed"})
		}
	}
	return faults
}
