package postgres

import (
	"context"
	"fmt"
	"math/bits"

	"golang.org/x/mod/sumdb/tlog"

	"handwerk/workshop/paper"
	"handwerk/workshop/record"
	"handwerk/workshop/seal"
)

// Verified says what was looked at.
type Verified struct {
	Rebuilds, Entries, Photos int
	Leaves                    int64
	Checkpoints               int // that the log was held against

	plans map[string]bool // copies of the book that were read, and whether they hold
}

// VerifyAll proves that every record is as it was written: the chain of each
// rebuild, its copy of the book, its pictures, and the log over all of them
// against these checkpoints, the last one in the database and any kept
// elsewhere. found hears of everything that does not hold.
func (s Checks) VerifyAll(ctx context.Context, key *seal.ShopKey, kept []seal.Checkpoint,
	found func(error)) (Verified, error) {
	v := Verified{plans: map[string]bool{}}
	var ids []string
	if err := s.DB.SelectContext(ctx, &ids, `SELECT id FROM rebuild ORDER BY number`); err != nil {
		return v, err
	}
	for _, id := range ids {
		if err := s.verifyRebuild(ctx, id, &v, found); err != nil {
			return v, err
		}
	}
	last, err := s.rooms.Checkpoint(ctx)
	if err != nil {
		return v, err
	}
	if last.Size > 0 && key != nil {
		if opened, err := key.Open(last.Note); err != nil {
			found(record.Tampered{Rebuild: "the log", Says: "its last checkpoint: " + err.Error()})
		} else {
			kept = append(kept, opened)
		}
	}
	v.Checkpoints = len(kept)
	if v.Leaves, err = s.verifyLog(ctx, kept, found); err != nil {
		return v, err
	}
	return v, s.verifyHeads(ctx, found)
}

func (s Checks) verifyRebuild(ctx context.Context, id string, v *Verified, found func(error)) error {
	r, err := selectRebuild(ctx, s.DB, `WHERE r.id = $1`, id)
	if err != nil {
		return err
	}
	// All rows, also those behind the head: a row put in is tampering too.
	list, err := selectEntries(ctx, s.DB, id, 0, 1<<30)
	if err != nil {
		return err
	}
	holds, known := v.plans[r.PlanHash]
	if !known {
		p, err := s.rooms.readPlan(ctx, r.PlanHash)
		holds = err == nil && p.Hash == r.PlanHash
		v.plans[r.PlanHash] = holds
	}
	if !holds {
		found(record.Tampered{Rebuild: r.Number, Says: "its copy of the book is not the one it was opened with"})
	}
	if err := record.Verify(r, list); err != nil {
		found(err)
	} else if holds {
		s.verifyStanding(ctx, r, list, found)
	}
	v.Rebuilds++
	v.Entries += len(list)
	return s.verifyPhotos(ctx, r, list, v, found)
}

// verifyStanding holds where the rebuild is said to stand, which the board and
// the search go by, against what its record comes to.
func (s Checks) verifyStanding(ctx context.Context, r record.Rebuild, list []record.Entry, found func(error)) {
	p, err := s.rooms.Plan(ctx, r.PlanHash)
	if err != nil {
		found(record.Tampered{Rebuild: r.Number, Says: "its copy of the book cannot be read: " + err.Error()})
		return
	}
	l := record.Ledger{
		Rebuild:  r,
		Plan:     p,
		Entries:  list,
		Zone:     s.zone.Load(),
		Units:    s.readsIn(),
		Currency: s.Currency(),
	}.Fold()
	now := l.State().Standing()
	var row struct {
		Cause, Words, Unit, Vehicle string
	}
	err = s.DB.GetContext(
		ctx,
		&row,
		`SELECT cause, words, unit_id AS unit, vehicle_id AS vehicle FROM rebuild WHERE id = $1`,
		r.ID,
	)
	if err != nil {
		found(record.Tampered{Rebuild: r.Number, Says: "its progress cannot be read: " + err.Error()})
		return
	}
	for _, x := range []struct {
		what      string
		kept, now any
	}{
		{
			"station", r.Place.Station, now.Station,
		}, {"step", r.Place.Step, now.Step}, {"closed", r.Place.Closed, now.Closed}, {"held", r.Place.Held, now.Held},
		{"day promised", r.Place.Promised, now.Promised}, {"hours left", r.Place.HoursLeft, now.HoursLeft},
		{"cause", row.Cause, paper.Cause(l)},
		{"words it is found by", row.Words, wordsOf(r)}, {"unit", row.Unit, unitOf(r)},
		{"vehicle", row.Vehicle, r.Vehicle.ID},
	} {
		if x.kept != x.now {
			found(
				record.Tampered{
					Rebuild: r.Number, Seq: r.Head.Seq,
					Says: fmt.Sprintf(
						"its %s is kept as %q, the record gives %q", x.what, fmt.Sprint(x.kept), fmt.Sprint(x.now),
					),
				},
			)
		}
	}
}

// verifyPhotos holds each picture against its digest, and each entry that
// shows one against the picture.
func (s Checks) verifyPhotos(ctx context.Context, r record.Rebuild, list []record.Entry, v *Verified,
	found func(error)) error {
	var photos []struct{ ID, Kept, Now string }
	err := s.DB.SelectContext(
		ctx,
		&photos,
		`SELECT id, sha256 AS kept, encode(sha256(bytes), 'hex') AS now FROM photo WHERE rebuild_id = $1`,
		r.ID,
	)
	if err != nil {
		return err
	}
	hashes := map[string]string{}
	for _, p := range photos {
		hashes[p.ID] = p.Now
		if p.Kept != p.Now {
			found(record.Tampered{Rebuild: r.Number, Says: "picture " + p.ID + " is not the one that was taken"})
		}
	}
	v.Photos += len(photos)
	for _, err := range record.VerifyPhotos(r, list, hashes) {
		found(err)
	}
	return nil
}

// verifyLog builds the tree anew from the leaves and holds it against each
// checkpoint.
func (s Checks) verifyLog(ctx context.Context, kept []seal.Checkpoint, found func(error)) (int64, error) {
	wanted := map[int64][]seal.Checkpoint{}
	for _, c := range kept {
		wanted[c.Size] = append(wanted[c.Size], c)
	}
	rows, err := s.DB.QueryxContext(ctx, `SELECT n, rebuild_id, number, seq, hash FROM log_leaf ORDER BY n`)
	if err != nil {
		return 0, err
	}
	defer func() { _ = rows.Close() }()
	var tree growing
	hold := func() {
		for _, c := range wanted[tree.size] {
			if tree.size > 0 && tree.root() != c.Root {
				found(
					record.Tampered{
						Rebuild: "the log",
						Says: fmt.Sprintf(
							"its first %d leaves are not those of the checkpoint: it was rewritten", c.Size,
						),
					},
				)
			}
		}
		delete(wanted, tree.size)
	}
	hold()
	for rows.Next() {
		var l seal.Leaf
		if err := rows.StructScan(&l); err != nil {
			return tree.size, err
		}
		if l.N != tree.size {
			found(record.Tampered{Rebuild: "the log", Says: fmt.Sprintf("leaf %d is missing", tree.size)})
			return tree.size, nil
		}
		tree.add(tlog.RecordHash(l.Record()))
		hold()
	}
	for _, list := range wanted {
		found(
			record.Tampered{
				Rebuild: "the log",
				Says: fmt.Sprintf("it has %d leaves, a checkpoint was signed over %d: its end is gone", tree.size,
					list[0].Size),
			},
		)
	}
	return tree.size, rows.Err()
}

// verifyHeads finds what the log knows and the record has not: rebuilds that
// are gone, tails that were cut off, chains that were hashed anew.
func (s Checks) verifyHeads(ctx context.Context, found func(error)) error {
	rows, err := s.DB.QueryxContext(
		ctx,
		`SELECT l.number, l.seq, r.id IS NULL AS gone, r.id IS NOT NULL AND e.hash IS NULL AS cut
		FROM log_leaf l LEFT JOIN rebuild r ON r.id = l.rebuild_id
		LEFT JOIN entry e ON e.rebuild_id = l.rebuild_id AND e.seq = l.seq
		WHERE r.id IS NULL OR (l.seq > 0 AND e.hash IS DISTINCT FROM l.hash)
		ORDER BY l.number, l.seq`,
	)
	if err != nil {
		return err
	}
	defer func() { _ = rows.Close() }()
	last := ""
	for rows.Next() {
		var l struct {
			Number    string
			Seq       int
			Gone, Cut bool
		}
		if err := rows.StructScan(&l); err != nil {
			return err
		}
		if l.Number == last {
			continue // one word a rebuild
		}
		last = l.Number
		says := "its record was rewritten after it was logged"
		switch {
		case l.Gone:
			says = "the whole rebuild is gone"
		case l.Cut:
			says = "the record was longer: its end was cut off"
		}
		found(record.Tampered{Rebuild: l.Number, Seq: l.Seq, Says: says})
	}
	if err := rows.Err(); err != nil {
		return err
	}
	return s.verifySeals(ctx, found)
}

// verifySeals holds the orders against the leaves from before their first entry.
func (s Checks) verifySeals(ctx context.Context, found func(error)) error {
	var leaves []seal.Leaf
	err := s.DB.SelectContext(ctx, &leaves, `SELECT n, rebuild_id, number, seq, hash FROM log_leaf l
		WHERE seq = 0 AND EXISTS (SELECT FROM rebuild r WHERE r.id = l.rebuild_id)`)
	if err != nil {
		return err
	}
	for _, l := range leaves {
		r, err := selectRebuild(ctx, s.DB, `WHERE r.id = $1`, l.Rebuild)
		if err != nil {
			return err
		}
		if r.Seal() != l.Hash {
			found(record.Tampered{Rebuild: l.Number, Says: "its order was rewritten after it was logged"})
		}
	}
	return nil
}

// growing is the hash of a tree (RFC 6962) as leaves come: the full subtrees
// so far, largest first. It is told apart from the tree kept in the database,
// which it is to prove.
type growing struct {
	size  int64
	parts []tlog.Hash
}

func (g *growing) add(leaf tlog.Hash) {
	g.parts = append(g.parts, leaf)
	for range bits.TrailingZeros64(uint64(g.size + 1)) {
		n := len(g.parts)
		g.parts = append(g.parts[:n-2], tlog.NodeHash(g.parts[n-2], g.parts[n-1]))
	}
	g.size++
}

func (g *growing) root() tlog.Hash {
	h := g.parts[len(g.parts)-1]
	for i := len(g.parts) - 2; i >= 0; i-- {
		h = tlog.NodeHash(g.parts[i], h)
	}
	return h
}
