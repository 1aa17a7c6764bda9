package postgres

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"github.com/jmoiron/sqlx"

	"handwerk/workshop"
)

// Import keeps a rebuild that came from another database, with its number,
// its whole record and its pictures, all or nothing. The caller has verified
// its chain.
func (s *Store) Import(ctx context.Context, l workshop.Ledger, photos []workshop.Photo) error {
	r := l.Rebuild
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		if err := insertRebuild(ctx, tx, r, l.Plan, ""); err != nil {
			return err
		}
		for _, e := range l.Entries {
			if err := insertEntry(ctx, tx, r.ID, e, workshop.Write{Key: "import " + e.ID}); err != nil {
				return err
			}
		}
		for _, p := range photos {
			if err := insertPhoto(ctx, tx, p); err != nil {
				return err
			}
		}
		// The next number of that year must not meet this one.
		year, last, ok := parseNumber(r.Number)
		if !ok {
			return fmt.Errorf("%q is not a rebuild's number", r.Number)
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO number_counter (year, last) VALUES ($1, $2)
			ON CONFLICT (year) DO UPDATE SET last = greatest(number_counter.last, $2)`, year, last)
		return err
	})
	if isUnique(err) {
		return workshop.Refusal{Reason: workshop.Conflict, Text: fmt.Sprintf("rebuild %s is already in this database", r.Number)}
	}
	return err
}

func parseNumber(number string) (year, n int, ok bool) {
	head, tail, found := strings.Cut(number, "-")
	year, err1 := strconv.Atoi(head)
	n, err2 := strconv.Atoi(tail)
	return 2000 + year, n, found && err1 == nil && err2 == nil
}

// VerifyAll recomputes the chain of every rebuild and calls found for each
// record that does not hold. It gives the number of rebuilds and entries read.
func (s *Store) VerifyAll(ctx context.Context, found func(error)) (rebuilds, entries int, err error) {
	var ids []string
	if err := s.db.SelectContext(ctx, &ids, `SELECT id FROM rebuild ORDER BY number`); err != nil {
		return 0, 0, err
	}
	for _, id := range ids {
		r, err := selectRebuild(ctx, s.db, `WHERE id = $1`, id)
		if err != nil {
			return rebuilds, entries, err
		}
		// All rows, also those behind the head: a row put in is tampering too.
		list, err := selectEntries(ctx, s.db, id, 1<<30)
		if err != nil {
			return rebuilds, entries, err
		}
		if p, err := s.Plan(ctx, r.PlanHash); err != nil || p.Hash != r.PlanHash {
			found(workshop.Tampered{Rebuild: r.Number, Says: "its copy of the book is not the one it was opened with"})
		}
		if err := workshop.Verify(r, list); err != nil {
			found(err)
		}
		rebuilds++
		entries += len(list)
	}
	return rebuilds, entries, nil
}
