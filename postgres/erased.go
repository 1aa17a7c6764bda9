package postgres

import (
	"bufio"
	"context"
	"errors"
	"os"
	"slices"
	"strings"
	"time"

	"handwerk/workshop/say"
)

// The ids of customers who were erased stand in a file outside the database: a
// backup made before still has their names, and whoever puts it back erases them
// again by it. The file says no more than ids.

// noteErased adds an id to the list; without a list there is nothing to do.
func (s Garage) noteErased(id string) error {
	if s.erased == "" {
		return nil
	}
	f, err := os.OpenFile(s.erased, os.O_APPEND|os.O_CREATE|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = f.WriteString(id + "\n")
	return errors.Join(err, f.Sync(), f.Close())
}

// EraseAgain erases whom the list names and the database still knows. It gives how
// many were, and the ids of those who have a rebuild open now.
func (s Garage) EraseAgain(ctx context.Context, now time.Time) (erased int, open []string, err error) {
	ids, err := readErased(s.erased)
	if err != nil {
		return 0, nil, err
	}
	var known []string
	if err := s.DB.SelectContext(
		ctx,
		&known,
		`SELECT id FROM customer WHERE erased_at IS NULL AND CAST(id AS text) = ANY ($1)`,
		ids,
	); err != nil {
		return 0, nil, err
	}
	for _, id := range known {
		err := s.EraseCustomer(ctx, id, now)
		var refusal say.Refusal
		switch {
		case err == nil:
			erased++
		case errors.As(err, &refusal) && refusal.Why == say.StillOpen:
			open = append(open, id)
		default:
			return erased, open, err
		}
	}
	return erased, open, nil
}

func readErased(file string) ([]string, error) {
	f, err := os.Open(file)
	if errors.Is(err, os.ErrNotExist) || file == "" {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	defer func() { _ = f.Close() }()
	var ids []string
	lines := bufio.NewScanner(f)
	for lines.Scan() {
		if id := strings.TrimSpace(lines.Text()); id != "" && !slices.Contains(ids, id) {
			ids = append(ids, id)
		}
	}
	return ids, lines.Err()
}
