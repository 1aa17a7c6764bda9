package postgres

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/workshop/people"
	"handwerk/workshop/shop"
)

// unshownFor is how long a picture that no entry shows is kept: it may wait with
// its entry on a tablet that is away.
const unshownFor = 30 * 24 * time.Hour

// backupHour is when the shop sleeps, by its own clock.
const backupHour = 2

// KeepShop keeps what the workshop says of itself from now on.
func (s Settings) KeepShop(ctx context.Context, shop shop.Shop, by people.Person, now time.Time) error {
	body, err := marshal(shop)
	if err != nil {
		return err
	}
	if _, err = s.DB.ExecContext(ctx, `INSERT INTO shop (body, by, at) VALUES ($1, $2, $3)`, body, by.Login,
		now); err == nil {
		s.keepsHabits(shop)
	}
	return s.full.note(err)
}

// BackupRuns are the last backup that succeeded and the last that was tried; nil
// where there is none.
func (s Backups) BackupRuns(ctx context.Context) (good, last *shop.BackupRun, err error) {
	if good, err = backupRun(ctx, s.DB, `WHERE error = ''`); err == nil {
		last, err = backupRun(ctx, s.DB, ``)
	}
	return good, last, err
}

func backupRun(ctx context.Context, q sqlx.QueryerContext, where string) (*shop.BackupRun, error) {
	var r shop.BackupRun
	err := q.QueryRowxContext(ctx, `SELECT at, file, error FROM backup_run `+where+
		` ORDER BY id DESC LIMIT 1`).Scan(&r.At, &r.File, &r.Error)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	}
	return &r, err
}

// WriteBackups writes a backup every night into the directory that the shop
// names, until ctx ends. Of several processes one writes it.
func (s Backups) WriteBackups(ctx context.Context, log *slog.Logger, owner func(context.Context) (*Store, error),
	now func() time.Time) {
	every := time.NewTicker(time.Minute)
	defer every.Stop()
	for {
		if err := s.BackUpTonight(ctx, owner, now()); err != nil && ctx.Err() == nil {
			log.Error("the nightly backup failed", "error", err.Error())
		}
		select {
		case <-ctx.Done():
			return
		case <-every.C:
		}
	}
}

// BackUpTonight writes the backup of this night, where one is wanted, due and not
// written or tried yet.
func (s Backups) BackUpTonight(ctx context.Context, owner func(context.Context) (*Store, error), now time.Time) error {
	shop, ok, err := s.rooms.Shop(ctx)
	if ok {
		s.keepsHabits(shop) // another process may have said something else
	}
	if err != nil || !ok || shop.Backups == "" || now.In(s.Zone()).Hour() < backupHour {
		return err
	}
	own, err := s.DB.Connx(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = own.Close() }()
	var mine bool
	if err := own.GetContext(ctx, &mine, `SELECT pg_try_advisory_lock(hashtext('nightly backup'))`); err != nil ||
		!mine {
		return err
	}
	defer func() {
		_, _ = own.ExecContext(context.WithoutCancel(ctx), `SELECT pg_advisory_unlock(hashtext('nightly backup'))`)
	}()
	tonight := now.In(s.Zone()).Format(time.DateOnly)
	file := filepath.Join(shop.Backups, backupPrefix+tonight+backupSuffix)
	last, err := backupRun(ctx, own, ``)
	if err != nil || !isBackupDue(last, file, now) {
		return err
	}
	failed := backUpInto(ctx, owner, file, now)
	said := ""
	if failed != nil {
		said = failed.Error()
	} else if err := tidyUp(shop.Backups, now); err != nil {
		failed = err
	}
	_, err = own.ExecContext(context.WithoutCancel(ctx),
		`INSERT INTO backup_run (at, file, error) VALUES ($1, $2, $3)`, now, file, said)
	return errors.Join(failed, err)
}

const (
	backupPrefix = "handwerk-"
	backupSuffix = ".backup"
	// triedAgain is how long after a backup that failed the next is tried.
	triedAgain = 15 * time.Minute
)

// isBackupDue: none was written into this file yet; one that failed is tried
// again after a while, and at once when it is to be written elsewhere.
func isBackupDue(last *shop.BackupRun, file string, now time.Time) bool {
	switch {
	case last == nil || last.File != file:
		return true
	case last.Error == "":
		return false
	}
	return now.Sub(last.At) >= triedAgain
}

// tidyUp takes away what is kept no longer: of the last 7 days each, of the last
// 4 weeks and 12 months the newest. The newest of all stays, however old.
func tidyUp(dir string, now time.Time) error {
	files, err := filepath.Glob(filepath.Join(dir, backupPrefix+"????-??-??"+backupSuffix))
	if err != nil {
		return err
	}
	slices.Sort(files)
	slices.Reverse(files)
	weeks, months := map[string]bool{}, map[string]bool{}
	for i, file := range files {
		name := strings.TrimSuffix(strings.TrimPrefix(filepath.Base(file), backupPrefix), backupSuffix)
		day, err := time.Parse(time.DateOnly, name)
		if err != nil {
			continue // none of ours
		}
		year, week := day.ISOWeek()
		w, m := fmt.Sprint(year, " ", week), day.Format("2006-01")
		age := now.Sub(day)
		keeps := i == 0 || age < 8*24*time.Hour || (age < 5*7*24*time.Hour && !weeks[w]) ||
			(age < 366*24*time.Hour && !months[m])
		weeks[w], months[m] = true, true
		if !keeps {
			if err := os.Remove(file); err != nil {
				return err
			}
		}
	}
	return nil
}

// backUpInto writes the whole file or none.
func backUpInto(ctx context.Context, owner func(context.Context) (*Store, error), file string, now time.Time) error {
	store, err := owner(ctx)
	if err != nil {
		return err
	}
	defer func() { _ = store.Close() }()
	if _, err := store.ForgetUnshown(ctx, now.Add(-unshownFor)); err != nil {
		return err
	}
	return WriteWhole(file, func(w io.Writer) error {
		_, err := store.Backup(ctx, w, now)
		return err
	})
}

// WriteWhole writes a file under its name once all of it is on the disk; a
// failure leaves what was there before.
func WriteWhole(name string, write func(io.Writer) error) (err error) {
	f, err := os.CreateTemp(filepath.Dir(name), ".handwerk-*")
	if err != nil {
		return fmt.Errorf("%s cannot be written: %w", name, err)
	}
	defer func() {
		if err != nil {
			_ = f.Close()
			_ = os.Remove(f.Name())
		}
	}()
	if err = write(f); err != nil {
		return err
	}
	if err = f.Sync(); err != nil {
		return err
	}
	if err = f.Close(); err != nil {
		return err
	}
	return os.Rename(f.Name(), name)
}
