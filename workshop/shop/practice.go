package shop

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"time"

	"handwerk/core/input"
	"handwerk/core/practice"
	"handwerk/workshop/people"
	"handwerk/workshop/say"
)

// PracticeTask is something that a lead has set people to practise on.
type PracticeTask struct {
	ID    string    `json:"id"`
	Kind  string    `json:"kind" enum:"axle,housing,fault"`
	Level string    `json:"level" enum:"clean,noisy,trap"` // how hard it is
	Seed  int64     `json:"seed"`
	For   string    `json:"for,omitempty"` // a login; empty: everyone
	Note  string    `json:"note,omitempty"`
	By    string    `json:"by"` // the name of who set it
	At    time.Time `json:"at"`
}

// PracticeRun is a practice that somebody brought to its end, and how it went.
type PracticeRun struct {
	Login      string    `json:"login"`
	Name       string    `json:"name"`
	Kind       string    `json:"kind" enum:"axle,housing,fault"`
	Level      string    `json:"level" enum:"clean,noisy,trap"` // how hard it was
	Seed       int64     `json:"seed"`
	Task       string    `json:"task,omitempty"` // the task it was done for
	At         time.Time `json:"at"`
	Right      bool      `json:"right"` // it stood within its limits, or all that was broken was found
	Minutes    float64   `json:"minutes"`
	Money      float64   `json:"money,omitempty"` // for the parts ordered
	Readings   int       `json:"readings"`
	Assemblies int       `json:"assemblies"` // how often it was put together
	Acts       int       `json:"acts"`       // all that was done
	Best       int       `json:"best"`       // acts of the shortest way
}

// PracticePage is what there is to practise on, and how it went so far, the latest first.
type PracticePage struct {
	Tasks []PracticeTask `json:"tasks"` // set by a lead
	Runs  []PracticeRun  `json:"runs"`  // brought to their end
}

// PracticeStore keeps tasks and runs.
type PracticeStore interface {
	PracticeTasks(ctx context.Context, login string) ([]PracticeTask, error)
	SetPractice(ctx context.Context, t PracticeTask, by people.Person) error
	// PracticeRuns are those of a person; of everyone without a login.
	PracticeRuns(ctx context.Context, login string) ([]PracticeRun, error)
	// KeepPractice keeps a run; the same acts of the same person once.
	KeepPractice(ctx context.Context, r PracticeRun, digest string) error
}

// Page is what a person may practise on and how it went: a lead sees everyone.
func (w Practice) Page(ctx context.Context, who people.Person) (PracticePage, error) {
	login := who.Login
	if who.Role == people.Lead {
		login = ""
	}
	tasks, err := w.store.PracticeTasks(ctx, login)
	if err != nil {
		return PracticePage{}, err
	}
	runs, err := w.store.PracticeRuns(ctx, login)
	return PracticePage{append([]PracticeTask{}, tasks...), append([]PracticeRun{}, runs...)}, err
}

// Set sets people to practise on something.
func (w Practice) Set(ctx context.Context, t PracticeTask, by people.Person) error {
	if by.Role != people.Lead {
		return say.Refuse(say.Forbidden, say.LeadPractice)
	}
	var faults input.Fields
	t.Note = say.OneLine(&faults, "note", t.Note, 0, 200)
	t.For = say.OneLine(&faults, "for", t.For, 0, 80)
	if err := faults.Err(); err != nil {
		return err
	}
	if _, err := practice.Practice(practice.In{Kind: t.Kind, Level: t.Level, Seed: seedOf(t.Seed)}); err != nil {
		return err
	}
	t.ID, t.By, t.At = say.NewID(), by.Name, w.now().UTC().Truncate(time.Microsecond)
	return w.store.SetPractice(ctx, t, by)
}

// mostSeed is what a browser counts to without a slip.
const mostSeed = 1 << 53

// seedOf keeps a seed to what every program reads alike.
func seedOf(seed int64) uint64 { return uint64(max(0, min(seed, mostSeed))) }

// Keep brings a practice to its end, and keeps how it went: worked out here from the
// acts, whatever a browser says of it.
func (w Practice) Keep(ctx context.Context, in practice.In, who people.Person) error {
	if in.Seed > mostSeed {
		return input.At("seed", "0 up to 2^53", "%d is too large", in.Seed)
	}
	in.Reveal = true
	out, err := practice.Practice(in)
	if err != nil {
		return err
	}
	tasks, err := w.store.PracticeTasks(ctx, who.Login)
	if err != nil {
		return err
	}
	run := PracticeRun{
		Login: who.Login, Name: who.Name, Kind: in.Kind, Level: in.Level, Seed: int64(in.Seed),
		At: w.now().UTC().Truncate(time.Microsecond), Right: out.Truth.Within, Minutes: out.Minutes, Money: out.Money,
		Readings: out.SoFar.Readings, Assemblies: out.SoFar.Assemblies, Acts: len(in.Acts), Best: len(out.BestPath),
	}
	for _, t := range tasks {
		if t.Kind == run.Kind && t.Level == run.Level && t.Seed == run.Seed {
			run.Task = t.ID
		}
	}
	acts, err := json.Marshal(in)
	if err != nil {
		return err
	}
	sum := sha256.Sum256(acts)
	return w.store.KeepPractice(ctx, run, hex.EncodeToString(sum[:]))
}
