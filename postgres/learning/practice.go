package learning

import (
	"context"
	"encoding/json"
	"time"

	"handwerk/postgres/conn"
	"handwerk/workshop/people"
	"handwerk/workshop/shop"
)

// Practice is what people practise on; nothing of it is on record.
type Practice struct{ *conn.Link }

// What is shown of practice at most.
const (
	mostTasks = 50
	mostRuns  = 500
)

// PracticeTasks are those set for a person and for everyone, the latest first; all
// without a login.
func (s Practice) PracticeTasks(ctx context.Context, login string) ([]shop.PracticeTask, error) {
	var rows []struct {
		ID, Kind, Level, Note string
		Seed                  int64
		For                   string    `db:"for_login"`
		By                    string    `db:"by_name"`
		At                    time.Time `db:"at"`
	}
	if err := s.DB.SelectContext(
		ctx,
		&rows,
		`SELECT id, kind, level, seed, for_login, note, by_name, at FROM practice_task
		WHERE $1 = '' OR for_login IN ('', $1) ORDER BY at DESC LIMIT $2`,
		login,
		mostTasks,
	); err != nil {
		return nil, err
	}
	tasks := make([]shop.PracticeTask, len(rows))
	for i, r := range rows {
		tasks[i] = shop.PracticeTask{ID: r.ID, Kind: r.Kind, Level: r.Level, Seed: r.Seed, For: r.For, Note: r.Note,
			By: r.By, At: r.At.UTC()}
	}
	return tasks, nil
}

// SetPractice keeps a task.
func (s Practice) SetPractice(ctx context.Context, t shop.PracticeTask, by people.Person) error {
	_, err := s.DB.ExecContext(
		ctx,
		`INSERT INTO practice_task (id, kind, level, seed, for_login, note, by_login, by_name, at)
		VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
		t.ID,
		t.Kind,
		t.Level,
		t.Seed,
		t.For,
		t.Note,
		by.Login,
		by.Name,
		t.At,
	)
	return err
}

// PracticeRuns are those of a person, the latest first; of everyone without a login.
func (s Practice) PracticeRuns(ctx context.Context, login string) ([]shop.PracticeRun, error) {
	var rows []json.RawMessage
	if err := s.DB.SelectContext(ctx, &rows, `SELECT body FROM practice_run WHERE $1 = '' OR login = $1
		ORDER BY at DESC LIMIT $2`, login, mostRuns); err != nil {
		return nil, err
	}
	runs := make([]shop.PracticeRun, len(rows))
	for i, raw := range rows {
		if err := json.Unmarshal(raw, &runs[i]); err != nil {
			return nil, err
		}
	}
	return runs, nil
}

// KeepPractice keeps a run; the same acts of the same person once.
func (s Practice) KeepPractice(ctx context.Context, r shop.PracticeRun, digest string) error {
	body, err := json.Marshal(r)
	if err != nil {
		return err
	}
	_, err = s.DB.ExecContext(
		ctx,
		`INSERT INTO practice_run (login, digest, body, at) VALUES ($1, $2, CAST($3 AS json), $4)
		ON CONFLICT DO NOTHING`,
		r.Login,
		digest,
		body,
		r.At,
	)
	return err
}
