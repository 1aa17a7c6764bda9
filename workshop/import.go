package workshop

import (
	"bytes"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"time"

	"handwerk/core/input"
	"handwerk/core/metrology"
	"handwerk/workshop/acts"
	"handwerk/workshop/paper"
	"handwerk/workshop/record"
	"handwerk/workshop/say"
)

var numberShape = regexp.MustCompile(`^\d{2}-\d{3,6}$`)

// maxEntries bounds the record of one rebuild that comes from elsewhere.
const maxEntries = 100_000

// Import examines a record that comes from elsewhere: whatever the database
// would not give back as it was written, and whatever would leave a screen
// empty, is refused. Where the rebuild stands is worked out anew.
func Import(l record.Ledger) (record.Ledger, error) {
	if err := record.Verify(l.Rebuild, l.Entries); err != nil {
		return l, err
	}
	if err := checkRebuild(l.Rebuild); err != nil {
		return l, err
	}
	if len(l.Entries) > maxEntries {
		return l, fmt.Errorf("it has %d entries, at most %d are taken in", len(l.Entries), maxEntries)
	}
	before, seen := l.Rebuild.OpenedAt, map[string]int{}
	for i, e := range l.Entries {
		if err := checkEntry(l, e, before, seen); err != nil {
			return l, fmt.Errorf("entry %d: %w", e.Seq, err)
		}
		before, seen[e.ID] = e.At, i
	}
	if err := checkShowable(l); err != nil {
		return l, err
	}
	l = l.Fold()
	l.Rebuild.Place = l.State().Standing()
	return l, nil
}

func checkRebuild(r record.Rebuild) error {
	switch {
	case !say.CanonicalID(r.ID):
		return fmt.Errorf("the rebuild's id %q is not written as ids are", r.ID)
	case !numberShape.MatchString(r.Number):
		return fmt.Errorf("%q is not a rebuild's number", r.Number)
	case !say.IsDay(r.Promised):
		return fmt.Errorf("%q is not a day something can be promised for", r.Promised)
	case !say.CanonicalTime(r.OpenedAt):
		return fmt.Errorf("it was opened at a time that cannot be: %s", r.OpenedAt)
	case !r.OpenedBy.Sound():
		return fmt.Errorf("it was opened by nobody who could")
	case r.Whose != nil || r.Vehicle.Customer != "" || r.Vehicle.Registration != "" || r.Vehicle.Facts != nil:
		return fmt.Errorf("a record names no customer and no registration; they stand apart from it")
	case len(r.Vehicle.Units) > 0:
		return fmt.Errorf("an order names one unit, not a vehicle's list of them")
	}
	var faults input.Fields
	if r.Facts.Check(&faults, "facts"); faults.Err() != nil {
		return faults.Err()
	}
	return say.CheckReadable("the order", r.Told, r.Customer, r.Complaint, r.Vehicle.ID, r.Vehicle.Name,
		r.Vehicle.Owner, r.Unit.ID,
		r.Unit.Kind, r.Unit.Name, r.Unit.Serial,
		r.Unit.Sheet, r.Unit.Route, r.Use, r.Odometer, r.PlanHash)
}

// checkEntry looks at one entry; seen are those before it, by id.
func checkEntry(l record.Ledger, e record.Entry, before time.Time, seen map[string]int) error {
	step, ok := l.Plan.Step(e.Step)
	switch {
	case !ok:
		return fmt.Errorf("the route has no step %q", e.Step)
	case !say.CanonicalID(e.ID):
		return fmt.Errorf("its id %q is not written as ids are", e.ID)
	case !say.CanonicalTime(e.At) || e.At.Before(before):
		return fmt.Errorf("it was made at a time that cannot be: %s", e.At)
	case !slices.Contains(step.Acts(), e.Act):
		return fmt.Errorf("%q is not done at this step", e.Act)
	case !slices.Contains([]metrology.Verdict{"", metrology.In, metrology.Out, metrology.Undecided, metrology.None},
		e.Verdict):
		return fmt.Errorf("%q is no verdict", e.Verdict)
	case !e.By.Sound():
		return fmt.Errorf("it was made by nobody who could")
	case len(e.Result) > 0 && (!json.Valid(e.Result) || bytes.Equal(e.Result, []byte("null"))):
		return fmt.Errorf("its result cannot be read")
	}
	said, err := acts.Decode(e.Act, e.Body)
	if err != nil {
		return fmt.Errorf("its body: %w", err)
	}
	if faults := acts.Sound(said); len(faults) > 0 {
		return faults
	}
	if e.Supersedes != "" {
		i, known := seen[e.Supersedes]
		if !known || l.Entries[i].Step != e.Step || seen["superseded "+e.Supersedes] > 0 {
			return fmt.Errorf("it corrects an entry that is not there to be corrected")
		}
		seen["superseded "+e.Supersedes] = 1
	} else if e.Is(acts.Strike{}) {
		return fmt.Errorf("it strikes nothing")
	}
	return say.CheckReadable("the entry", e.Item.String(), e.Method)
}

// checkShowable draws every screen of the rebuild once. A plan or an entry that was
// put together by hand must not leave one that can never be opened.
func checkShowable(l record.Ledger) (err error) {
	defer func() {
		if r := recover(); r != nil {
			err = fmt.Errorf("its copy of the book and its entries do not fit together")
		}
	}()
	l.Drawer = func(string) (record.Drawer, error) { return record.Drawer{}, nil }
	l.Photo = func(string) (string, error) { return "", nil }
	l = l.Fold()
	record.MakeSheet(l)
	paper.MakeRecord(l)
	for _, step := range l.Plan.Steps {
		for _, gate := range slices.Concat(step.After, step.BoundTo(), named1(step.Of), named1(step.Beside)) {
			if _, ok := l.Plan.ByID[gate]; !ok {
				return fmt.Errorf("step %q of its copy of the book names a step %q that is not there", step.ID, gate)
			}
		}
		if !step.Rules.IsWhole(step.Step) {
			return fmt.Errorf("step %q of its copy of the book does not say what is done there", step.ID)
		}
		_, _ = record.MakeStep(l, step.ID, l.Rebuild.OpenedBy,
			l.Rebuild.OpenedAt) // what it cannot work out it says on screen
	}
	return nil
}

func named1(step string) []string {
	if step == "" {
		return nil
	}
	return []string{step}
}
