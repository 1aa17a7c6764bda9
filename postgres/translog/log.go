// Package translog keeps the log over the heads of all records: an append-only
// tree whose signed checkpoints prove that nothing was taken away or changed.
package translog

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"log/slog"
	"maps"
	"slices"
	"sync/atomic"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jmoiron/sqlx"
	"golang.org/x/mod/sumdb/tlog"

	"handwerk/postgres/cluster"
	"handwerk/postgres/conn"
	"handwerk/workshop/seal"
)

const (
	// logLock is held by the one process that writes the log.
	logLock = 0x68616e6477 // "handw"
	// logEvery gathers heads, so that a busy rebuild is one leaf and not fifty.
	logEvery = 500 * time.Millisecond
	// logAll looks for heads that nobody told of.
	logAll   = 30 * time.Second
	logBatch = 5000
)

// Keeper signs a log's head and keeps its checkpoint outside the database.
type Keeper interface {
	Sign(size int64, root tlog.Hash) (seal.Checkpoint, error)
	// Keep is called with every checkpoint, and once at the start with the last
	// one, to be held against the one kept before.
	Keep(c seal.Checkpoint, rootAt func(size int64) (tlog.Hash, error)) error
}

// Log writes the log, one process at a time.
type Log struct {
	*conn.Link
	stopped *atomic.Pointer[string] // why it is not written
}

// New is the log of a database.
func New(l *conn.Link) Log { return Log{l, new(atomic.Pointer[string])} }

// WriteLog puts every new head into the log, until ctx ends. One process at a
// time does; the others wait to take over.
func (s Log) WriteLog(ctx context.Context, log *slog.Logger, k Keeper) {
	for ctx.Err() == nil {
		err := s.writeLog(ctx, k)
		if ctx.Err() != nil {
			return
		}
		switch {
		case errors.Is(err, errNotMine):
			s.stopped.Store(nil)
		case err != nil:
			says := cluster.Redact(err).Error()
			s.stopped.Store(&says)
			log.Warn("the log is waiting", "error", says)
		}
		select {
		case <-ctx.Done():
		case <-time.After(2 * time.Second):
		}
	}
}

// StopLog says why the log is not begun: its key is lost.
func (s Log) StopLog(why string) { s.stopped.Store(&why) }

// LogStopped says why this process cannot write the log over all records; empty
// while it can, or another does.
func (s Log) LogStopped() string {
	if says := s.stopped.Load(); says != nil {
		return *says
	}
	return ""
}

// takeOnLog makes a role ($1) that may the one that writes the log, for good or
// for the transaction ($2); any other stays as it is.
const takeOnLog = `SELECT set_config('role', rolname, $2) FROM pg_roles WHERE rolname = '` + cluster.LogRole +
	`' AND pg_has_role($1, oid, 'MEMBER')`

var errNotMine = errors.New("another process writes the log")

// writeLog works on a connection of its own, whose end gives the lock back.
func (s Log) writeLog(ctx context.Context, k Keeper) error {
	own, err := pgx.ConnectConfig(ctx, s.Config)
	if err != nil {
		return err
	}
	defer func() { _ = own.Close(context.WithoutCancel(ctx)) }()
	var mine bool
	if err := own.QueryRow(ctx, `SELECT pg_try_advisory_lock($1)`, logLock).Scan(&mine); err != nil {
		return err
	}
	if !mine {
		return errNotMine
	}
	if _, err := own.Exec(ctx, takeOnLog, s.Config.User, false); err != nil {
		return err
	}
	if _, err := own.Exec(ctx, "LISTEN "+conn.Channel); err != nil {
		return err
	}
	w := &logWriter{own, k, func() { s.stopped.Store(nil) }}
	if err := w.confirm(ctx); err != nil {
		return err
	}
	return w.run(ctx)
}

type logWriter struct {
	conn   *pgx.Conn
	keeper Keeper
	goes   func() // called when a round went well
}

// confirm holds the log as it is against the checkpoint kept outside.
func (w *logWriter) confirm(ctx context.Context) error {
	var note string
	var c seal.Checkpoint
	err := w.conn.QueryRow(ctx, `SELECT size, note FROM checkpoint ORDER BY size DESC LIMIT 1`).Scan(&c.Size, &note)
	if err != nil && !errors.Is(err, pgx.ErrNoRows) {
		return err
	}
	c.Note = note
	return w.keeper.Keep(c, func(size int64) (tlog.Hash, error) { return tlog.TreeHash(size, w.reader(ctx, nil)) })
}

// run writes all heads at first and every minute, and those it is told of as
// they come.
func (w *logWriter) run(ctx context.Context) error {
	all, told := time.Time{}, map[string]bool{}
	for {
		if time.Since(all) > logAll {
			if err := w.writeAll(ctx); err != nil {
				return err
			}
			all = time.Now()
			w.goes()
		} else if len(told) > 0 {
			if _, err := w.write(ctx, slices.Collect(maps.Keys(told))); err != nil {
				return err
			}
		}
		clear(told)
		if err := w.gather(ctx, told); err != nil {
			return err
		}
		if told[""] { // something may have been missed
			all = time.Time{}
		}
	}
}

// writeAll logs every head that is not there, a batch at a time.
func (w *logWriter) writeAll(ctx context.Context) error {
	for {
		if n, err := w.write(ctx, nil); err != nil || n < logBatch {
			return err
		}
	}
}

// gather waits for news, and a little longer for what comes with it.
func (w *logWriter) gather(ctx context.Context, told map[string]bool) error {
	until := time.Now().Add(logAll)
	for {
		waiting, cancel := context.WithDeadline(ctx, until)
		n, err := w.conn.WaitForNotification(waiting)
		over := waiting.Err() != nil
		cancel()
		switch {
		case err != nil && (!over || ctx.Err() != nil):
			return err
		case err != nil:
			return nil
		}
		if len(told) == 0 {
			until = time.Now().Add(logEvery)
		}
		if e, ok := conn.DecodeEvent(n.Payload); ok && e.Session == "" {
			told[e.Rebuild] = true
		}
	}
}

// write logs the heads of these rebuilds, or of all, that are not in the log
// as its last word on them; it gives how many there were.
func (w *logWriter) write(ctx context.Context, ids []string) (int, error) {
	tx, err := w.conn.Begin(ctx)
	if err != nil {
		return 0, err
	}
	defer func() { _ = tx.Rollback(context.WithoutCancel(ctx)) }()
	rows, err := tx.Query(ctx, `SELECT r.id, r.number, r.head_seq, r.head_hash FROM rebuild r
		LEFT JOIN LATERAL (SELECT hash FROM log_leaf l WHERE l.rebuild_id = r.id ORDER BY n DESC LIMIT 1) l ON true
		WHERE ($1::uuid[] IS NULL OR r.id = ANY ($1)) AND l.hash IS DISTINCT FROM r.head_hash
		ORDER BY r.id LIMIT $2`, ids, logBatch)
	if err != nil {
		return 0, err
	}
	leaves, err := pgx.CollectRows(rows, func(row pgx.CollectableRow) (l seal.Leaf, err error) {
		return l, row.Scan(&l.Rebuild, &l.Number, &l.Seq, &l.Hash)
	})
	if err != nil || len(leaves) == 0 {
		return 0, err
	}
	c, err := w.insert(ctx, tx, leaves)
	if err != nil {
		return 0, err
	}
	if err := tx.Commit(ctx); err != nil {
		return 0, err
	}
	return len(leaves), w.keeper.Keep(c, nil)
}

func (w *logWriter) insert(ctx context.Context, tx pgx.Tx, leaves []seal.Leaf) (seal.Checkpoint, error) {
	var size int64
	if err := tx.QueryRow(ctx, `SELECT COALESCE(max(n) + 1, 0) FROM log_leaf`).Scan(&size); err != nil {
		return seal.Checkpoint{}, err
	}
	fresh := map[int64]tlog.Hash{}
	var leafRows, hashRows [][]any
	for _, l := range leaves {
		hashes, err := tlog.StoredHashes(size, l.Record(), w.reader(ctx, fresh))
		if err != nil {
			return seal.Checkpoint{}, err
		}
		at := tlog.StoredHashIndex(0, size)
		for i, h := range hashes {
			fresh[at+int64(i)] = h
			hashRows = append(hashRows, []any{at + int64(i), h[:]})
		}
		leafRows = append(leafRows, []any{size, l.Rebuild, l.Number, l.Seq, l.Hash})
		size++
	}
	root, err := tlog.TreeHash(size, w.reader(ctx, fresh))
	if err != nil {
		return seal.Checkpoint{}, err
	}
	c, err := w.keeper.Sign(size, root)
	if err != nil {
		return c, err
	}
	if _, err := tx.CopyFrom(
		ctx, pgx.Identifier{"log_leaf"}, []string{"n", "rebuild_id", "number", "seq", "hash"},
		pgx.CopyFromRows(leafRows),
	); err != nil {
		return c, err
	}
	if _, err := tx.CopyFrom(ctx, pgx.Identifier{"log_hash"}, []string{"i", "hash"},
		pgx.CopyFromRows(hashRows)); err != nil {
		return c, err
	}
	_, err = tx.Exec(ctx, `INSERT INTO checkpoint (size, note) VALUES ($1, $2)`, c.Size, c.Note)
	return c, err
}

// reader reads inner hashes of the tree, those of this batch first.
func (w *logWriter) reader(ctx context.Context, fresh map[int64]tlog.Hash) tlog.HashReader {
	return tlog.HashReaderFunc(func(indexes []int64) ([]tlog.Hash, error) {
		hashes := make([]tlog.Hash, len(indexes))
		for i, at := range indexes {
			if h, ok := fresh[at]; ok {
				hashes[i] = h
				continue
			}
			var raw []byte
			if err := w.conn.QueryRow(ctx, `SELECT hash FROM log_hash WHERE i = $1`, at).Scan(&raw); err != nil {
				return nil, fmt.Errorf("the log lacks hash %d: %w", at, err)
			}
			copy(hashes[i][:], raw)
		}
		return hashes, nil
	})
}

// MendLog makes the inner hashes of the log anew from its leaves: one that was
// lost stops it for good. What the leaves say is not touched.
func (s Log) MendLog(ctx context.Context) (made int64, err error) {
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, takeOnLog, s.Config.User, true); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `SELECT pg_advisory_xact_lock($1)`, logLock+1); err != nil {
			return err
		}
		var leaves []seal.Leaf
		if err := tx.SelectContext(
			ctx,
			&leaves,
			`SELECT n, rebuild_id, number, seq, hash FROM log_leaf ORDER BY n`,
		); err != nil {
			return err
		}
		made, err = mendLeaves(ctx, tx, leaves)
		return err
	})
	return made, err
}

// mendLeaves works the inner hashes out again, leaf by leaf.
func mendLeaves(ctx context.Context, tx *sqlx.Tx, leaves []seal.Leaf) (made int64, err error) {
	all := map[int64]tlog.Hash{}
	reader := tlog.HashReaderFunc(func(indexes []int64) ([]tlog.Hash, error) {
		hashes := make([]tlog.Hash, len(indexes))
		for i, at := range indexes {
			hashes[i] = all[at]
		}
		return hashes, nil
	})
	for i, l := range leaves {
		if l.N != int64(i) {
			return made, fmt.Errorf("leaf %d of the log is missing: it cannot be rebuilt", i)
		}
		hashes, err := tlog.StoredHashes(l.N, l.Record(), reader)
		if err != nil {
			return made, err
		}
		at := tlog.StoredHashIndex(0, l.N)
		for k, h := range hashes {
			all[at+int64(k)] = h
		}
		n, err := mendHashes(ctx, tx, at, hashes)
		if made += n; err != nil {
			return made, err
		}
	}
	return made, nil
}

// mendHashes writes those that are not there, and counts them.
func mendHashes(ctx context.Context, tx *sqlx.Tx, at int64, hashes []tlog.Hash) (made int64, err error) {
	for k, h := range hashes {
		res, err := tx.ExecContext(ctx, `INSERT INTO log_hash (i, hash) VALUES ($1, $2) ON CONFLICT (i) DO NOTHING`,
			at+int64(k), h[:])
		if err != nil {
			return made, err
		}
		n, err := res.RowsAffected()
		if made += n; err != nil {
			return made, err
		}
	}
	return made, nil
}

// Checkpoint is the last one signed; its size is 0 before the first.
func (s Log) Checkpoint(ctx context.Context) (seal.Checkpoint, error) {
	return selectCheckpoint(ctx, s.DB)
}

func selectCheckpoint(ctx context.Context, q sqlx.QueryerContext) (seal.Checkpoint, error) {
	var c seal.Checkpoint
	err := sqlx.GetContext(ctx, q, &c, `SELECT size, note FROM checkpoint ORDER BY size DESC LIMIT 1`)
	if errors.Is(err, sql.ErrNoRows) {
		err = nil
	}
	return c, err
}
