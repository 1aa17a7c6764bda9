package httpapi

import (
	"net/http"
	"os"
	"strings"
	"sync"
	"time"

	"handwerk/core/input"
	"handwerk/workshop/people"
	"handwerk/workshop/shop"
)

// ShopView is what the workshop says of itself, and how its backups stand.
type ShopView struct {
	shop.Shop
	LastBackup  *shop.BackupRun `json:"last_backup,omitempty"` // that succeeded
	BackupFault string          `json:"backup_fault,omitempty"`
	LogFault    string          `json:"log_fault,omitempty"` // why the log over all records has stopped
}

func (a shopDesk) shopEndpoints() []endpoint {
	return []endpoint{
		get(a.api, "/shop", "shop", "what the workshop says of itself, and how its backups stand", signedIn,
			func(c call, _ nothing) (ShopView, error) {
				return a.shopView(c)
			}),
		post(a.api, "/shop", "changeShop", "what the workshop says of itself from now on", leads, http.StatusOK,
			a.changeShop),
	}
}

func (a *api) shopView(c call) (view ShopView, err error) {
	if view.Shop, _, err = a.Accounts.Shop(c.Context()); err != nil {
		return view, err
	}
	var last *shop.BackupRun
	if view.LastBackup, last, err = a.Accounts.BackupRuns(c.Context()); err == nil {
		view.BackupFault = view.Shop.BackupFault(view.LastBackup, last, a.Now())
	}
	view.LogFault = a.logStopped()
	if c.person().Role != people.Lead {
		view.hideThePlaces()
	}
	return view, err
}

// hideThePlaces leaves of faults only that they are: where things lie on the
// server is a lead's to know.
func (v *ShopView) hideThePlaces() {
	v.Backups, v.LastBackup = "", nil
	if v.BackupFault != "" {
		v.BackupFault = "The nightly backup does not go well. A lead sees under Shop what is wrong."
	}
	if v.LogFault != "" {
		v.LogFault = "The log over all records has stopped: entries are kept, but nothing proves yet that none is gone. A lead sees under Shop what is wrong."
	}
}

func (a *api) logStopped() string {
	if a.LogStopped == nil {
		return ""
	}
	return a.LogStopped()
}

// backupsLookedAt is how often the board asks how the backups stand: every board
// would ask otherwise, and nothing of it changes by the minute.
const backupsLookedAt = time.Minute

// notice is what the board says of backups and log, as it was a moment ago.
type notice struct {
	mu   sync.Mutex
	says string
	at   time.Time
}

// faults are what everybody must know of backups and log; whoever comes while
// another asks hears what was said before. What cannot be asked now is asked
// by the next: it holds no board up.
func (a *api) faults(c call) string {
	n := &a.notice
	n.mu.Lock()
	says, due := n.says, a.Now().Sub(n.at) >= backupsLookedAt
	if due {
		n.at = a.Now()
	}
	n.mu.Unlock()
	if !due {
		return says
	}
	view, err := a.shopView(c)
	n.mu.Lock()
	defer n.mu.Unlock()
	if err != nil {
		n.at = time.Time{}
		return n.says
	}
	view.hideThePlaces()
	n.says = strings.TrimSpace(view.LogFault + " " + view.BackupFault)
	return n.says
}

func (a shopDesk) changeShop(c call, in shop.Shop) (ShopView, error) {
	faults := in.Check("")
	if len(faults) == 0 && in.Backups != "" {
		faults = writable(in.Backups)
	}
	if err := faults.Err(); err != nil {
		return ShopView{}, err
	}
	if err := a.Accounts.KeepShop(c.Context(), in, c.person(), a.Now()); err != nil {
		return ShopView{}, err
	}
	a.notice.mu.Lock()
	a.notice.at = time.Time{}
	a.notice.mu.Unlock()
	a.security(c, "shop changed", "by", c.person().Login)
	return a.shopView(c)
}

// writable tries the directory now, so that it does not fail at night.
func writable(dir string) (faults input.Fields) {
	f, err := os.CreateTemp(dir, ".handwerk-*")
	if err != nil {
		faults.Add("backups", "an existing folder the program may write to",
			"the program cannot write to %s", dir)
		return faults
	}
	_ = f.Close()
	_ = os.Remove(f.Name())
	return nil
}
