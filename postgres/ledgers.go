package postgres

import (
	"context"
	"sync"

	"github.com/hashicorp/golang-lru/v2/simplelru"

	"handwerk/postgres/conn"
	"handwerk/workshop/record"
)

const (
	// cachedBytes bounds what the folded records may hold, by the size of their texts.
	cachedBytes = 24 << 20
	// writersWaiting bounds the queue at one rebuild; each holds a request, none a connection.
	writersWaiting = 512
	slots          = 256
)

// ledgerCache keeps the records last used, folded, each by the hash of the
// head it belongs to: a record whose head has moved on only folds what is new.
type ledgerCache struct {
	mu    sync.Mutex
	kept  *simplelru.LRU[string, keptLedger]
	bytes int
	turns [slots]turn
}

type keptLedger struct {
	record.Ledger
	bytes int
}

// turn lets one writer of a rebuild at a time go on to the database; the
// others wait here and hold no connection. A few rebuilds share one.
type turn struct {
	free    chan struct{}
	waiting chan struct{}
}

func newLedgerCache() *ledgerCache {
	c := &ledgerCache{}
	c.kept, _ = simplelru.NewLRU(1<<20, func(_ string,
		k keptLedger) {
		c.bytes -= k.bytes
	}) // a positive size never fails
	for i := range c.turns {
		c.turns[i] = turn{make(chan struct{}, 1), make(chan struct{}, writersWaiting)}
	}
	return c
}

// take waits for the turn to write into a rebuild; done gives it on.
func (c *ledgerCache) take(ctx context.Context, id string) (done func(), err error) {
	sum := 0
	for _, b := range []byte(id) {
		sum = (sum*31 + int(b)) % slots
	}
	t := c.turns[sum]
	select {
	case t.waiting <- struct{}{}:
		defer func() { <-t.waiting }()
	default:
		return nil, conn.ErrBusy
	}
	select {
	case t.free <- struct{}{}:
		return func() { <-t.free }, nil
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

func (c *ledgerCache) get(id string) (record.Ledger, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	k, ok := c.kept.Get(id)
	return k.Ledger, ok
}

// put keeps a folded record, without what its request may ask, unless a later
// state of it is kept already.
func (c *ledgerCache) put(l record.Ledger) {
	c.mu.Lock()
	defer c.mu.Unlock()
	l.Asks = record.Asks{}
	k := keptLedger{Ledger: l}
	before, ok := c.kept.Peek(l.Rebuild.ID)
	if ok && before.Rebuild.Head.Seq > l.Rebuild.Head.Seq {
		return
	}
	from := 0
	if ok {
		k.bytes, from = before.bytes, len(before.Entries)
	}
	for _, e := range l.Entries[min(from, len(l.Entries)):] {
		k.bytes += entryBytes + len(e.Body) + len(e.Result)
	}
	c.bytes += k.bytes
	if ok {
		c.bytes -= before.bytes
	}
	c.kept.Add(l.Rebuild.ID, k)
	for c.bytes > cachedBytes && c.kept.Len() > 1 {
		c.kept.RemoveOldest()
	}
}

// entryBytes is what an entry takes beside its texts, roughly.
const entryBytes = 600

func (c *ledgerCache) forgetAll() {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.kept.Purge()
}

func (c *ledgerCache) forget(id string) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.kept.Remove(id)
}
