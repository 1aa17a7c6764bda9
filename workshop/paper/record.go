// Package paper puts a whole rebuild into words: the record that is printed and
// signed, its first page, the trays, a unit over all its rebuilds.
package paper

import (
	"fmt"
	"time"

	"handwerk/book"
	"handwerk/core/metrology"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds/torque"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
)

// Record is a rebuild in words, as it is read aloud, printed and signed.
type Record struct {
	Rebuild  record.Rebuild     `json:"rebuild"`
	Sheet    string             `json:"sheet"` // the spec sheet worked to
	Stations []RecordStation    `json:"stations"`
	Handover []string           `json:"handover"`
	Found    []record.FoundLine `json:"found"` // along the way, the gravest first
	Summary  record.Summary     `json:"summary"`
	SignedBy string             `json:"signed_by,omitempty"`
	SignedAt *time.Time         `json:"signed_at,omitempty"`
	// Checkpoint is the signed head of the log when this was written out; it
	// proves later that the record is still there as it was.
	Checkpoint string `json:"checkpoint,omitempty"`
}

// RecordStation is one station with what was done there.
type RecordStation struct {
	Title string       `json:"title"`
	Steps []RecordStep `json:"steps"`
}

// RecordStep is one step with its lines.
type RecordStep struct {
	ID     string              `json:"id"`
	Title  string              `json:"title"`
	Kind   book.Kind           `json:"kind"`
	Status record.Status       `json:"status"`
	Lines  []RecordLine        `json:"lines"`
	Final  metrology.Verdict   `json:"verdict,omitempty"`
	Wrench *torque.WrenchTable `json:"wrench,omitempty"` // readings of a wrench that stand
}

// RecordLine is one entry in words. Struck ones stay readable.
type RecordLine struct {
	Says    string            `json:"says"`
	By      string            `json:"by"`
	At      time.Time         `json:"at"`
	Verdict metrology.Verdict `json:"verdict,omitempty"`
	Struck  bool              `json:"struck,omitempty"`
	Photo   string            `json:"photo,omitempty"`
	Method  string            `json:"method,omitempty"`
	Wrench  bool              `json:"wrench,omitempty"` // it stands in the table of the wrench's readings
	// Paper is what the customer's paper says of it: without what the house pays
	// and reckons with. Empty, it is left out there.
	Paper string `json:"-"`
}

// MakeRecord puts a record into words.
func MakeRecord(l record.Ledger) Record {
	s := l.State()
	rec := Record{
		Rebuild: l.Rebuild, Sheet: fmt.Sprintf("%s, version %d", l.State().On.Sheet.Family, l.State().On.Sheet.Version),
		Handover: []string{}, Found: record.Finds(s), Summary: summarize(s),
	}
	for _, st := range l.Plan.Route.Stations {
		station := RecordStation{Title: st.Title, Steps: []RecordStep{}}
		for _, step := range st.Steps {
			step, _ := l.Plan.Step(step.ID)
			status, _ := s.Status(step)
			rs := RecordStep{
				ID: step.ID, Title: step.Title, Kind: step.Kind, Status: status, Lines: []RecordLine{},
				Final:  s.LastVerdict(step),
				Wrench: torque.TableOf(s, step),
			}
			for _, i := range s.At(step).All {
				rs.Lines = append(rs.Lines, lineOf(s, step, i))
			}
			station.Steps = append(station.Steps, rs)
			rec.Handover = append(rec.Handover, step.Handover...)
			if e, ok := s.At(step).Has(acts.Decision{}, record.Place{}); ok && step.Role == string(people.Lead) &&
				status == record.Done {
				rec.SignedBy, rec.SignedAt = e.By.Name, &e.At
			}
		}
		rec.Stations = append(rec.Stations, station)
	}
	return rec
}

func lineOf(s *record.State, step *record.Step, i int32) RecordLine {
	e := s.Entries[i]
	return RecordLine{
		Says: record.Words(
			s,
			step,
			&e,
		),
		Paper:   record.PaperWords(s, step, &e),
		By:      e.By.Name,
		At:      e.At,
		Verdict: e.Verdict,
		Struck:  s.Superseded[i] > 0,
		Photo:   photoOf(e),
		Method:  e.Method,
		Wrench:  e.Is(acts.Torqued{}) && s.Superseded[i] == 0,
	}
}

func photoOf(e record.Entry) string {
	if picture := acts.PictureOf(e.ReadAct()); picture != nil {
		return picture.Photo
	}
	return ""
}
