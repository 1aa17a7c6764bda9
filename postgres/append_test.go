package postgres_test

import (
	"context"
	"fmt"
	"runtime"
	"sync"
	"testing"
	"time"
	"weak"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/postgres/conn"
	"handwerk/postgres/pgtest"
	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/record"
)

func remark(text string) record.Draft {
	return record.Draft{Says: &acts.Note{Note: text}}
}

// Right after a start nothing is known of the rebuild, its plan neither: as
// many writers as there are connections, and many more, are all answered.
func TestManyWritersRightAfterAStart(t *testing.T) {
	t.Parallel()
	first := newShop(t)
	r := first.open(t)
	s := openShop(t, first.url)
	ctx, cancel := context.WithTimeout(context.Background(), 60*time.Second)
	defer cancel()
	var wg sync.WaitGroup
	failed := make(chan error, 256)
	for i := range 256 {
		wg.Add(1)
		go func() {
			defer wg.Done()
			_, _, err := s.store.Append(ctx, r.ID, workshop.Write{Key: fmt.Sprintf("writer-%d", i)},
				func(l record.Ledger) (record.Proposal, error) {
					return record.Propose(l, "identify", remark("one of many"), lead, time.Now())
				})
			failed <- err
		}()
	}
	wg.Wait()
	close(failed)
	for err := range failed {
		require.NoError(t, err)
	}
	_, found := s.verified(t, nil)
	assert.Empty(t, found)
}

// A record as it stood is let go when the next entry is kept: nothing that is
// remembered holds what came before it.
func TestWhatStoodBeforeIsLetGo(t *testing.T) {
	t.Parallel()
	s := newShop(t)
	r := s.open(t)
	ctx := context.Background()
	var held []weak.Pointer[record.State]
	for i := range 12 {
		l, err := s.store.Ledger(ctx, r.ID)
		require.NoError(t, err)
		held = append(held, weak.Make(l.State()))
		_, _, err = s.Append(ctx, workshop.Asking{}, r.ID, "identify", remark(fmt.Sprint("line ", i)), lead,
			fmt.Sprintf("letting-go-%d", i))
		require.NoError(t, err)
	}
	runtime.GC()
	alive := 0
	for _, p := range held {
		if p.Value() != nil {
			alive++
		}
	}
	assert.LessOrEqual(t, alive, 2, "the record as it stood before each of %d entries", len(held))
}

// What a process remembers of a record never hides what others wrote.
func TestWhatIsRememberedFollowsTheDatabase(t *testing.T) {
	t.Parallel()
	one := newShop(t)
	two := openShop(t, one.url)
	r := one.open(t)
	ctx := context.Background()
	for i := range 9 {
		writer, reader := []*bench{one, two}[i%2], []*bench{two, one}[i%2]
		_, _, err := writer.Append(ctx, workshop.Asking{}, r.ID, "identify", remark(fmt.Sprint("line ", i)), lead,
			fmt.Sprintf("turn-key-%d", i))
		require.NoError(t, err)
		l, err := reader.store.Ledger(ctx, r.ID)
		require.NoError(t, err)
		require.Len(t, l.Entries, i+1)
		require.Equal(t, l.Rebuild.Head.Hash, l.Entries[i].Hash)
	}
	// A key used at one process is known at the other, also when the rules
	// would say no now.
	first, _, err := one.Append(ctx, workshop.Asking{}, r.ID, "identify", outcome("serial", "done"), lead,
		"same-key-twice")
	require.NoError(t, err)
	again, replayed, err := two.Append(ctx, workshop.Asking{}, r.ID, "identify", outcome("serial", "done"), lead,
		"same-key-twice")
	require.NoError(t, err)
	assert.True(t, replayed)
	assert.Equal(t, first.Hash, again.Hash)
	_, _, err = two.Append(ctx, workshop.Asking{}, r.ID, "identify", outcome("serial", "done"), lead, "another-key-1")
	require.ErrorContains(t, err, "recorded this at")
}

// A frozen server is a lost one, within the deadline of the request, and is
// good again when it thaws.
//
// Alone: it freezes the server that all share.
func TestAFrozenServerIsLostAndComesBack(t *testing.T) {
	s := newShop(t)
	r := s.open(t)
	thaw := pgtest.Freeze(t)
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	_, _, err := s.Append(ctx, workshop.Asking{}, r.ID, "identify", remark("into the ice"), lead, "frozen-key-1")
	require.Error(t, err)
	assert.True(t, conn.IsLost(err), "%v", err)
	thaw()
	require.Eventually(t, func() bool {
		_, _, err := s.Append(context.Background(), workshop.Asking{}, r.ID, "identify", remark("into the ice"), lead,
			"frozen-key-1")
		return err == nil
	}, 20*time.Second, 50*time.Millisecond)
	l, err := s.store.Ledger(context.Background(), r.ID)
	require.NoError(t, err)
	assert.Len(t, l.Entries, 1, "the same key is one entry, whether the first try arrived or not")
}

// A transaction that somebody forgot does not hold others up for ever.
func TestLocksAreNotWaitedForForEver(t *testing.T) {
	t.Parallel()
	s := newShop(t)
	r := s.open(t)
	_, _, err := s.Append(context.Background(), workshop.Asking{}, r.ID, "identify", remark("known"), lead,
		"lock-key-1")
	require.NoError(t, err)
	owner := pgtest.Owner(t, s.url)
	tx, err := owner.Begin(context.Background())
	require.NoError(t, err)
	_, err = tx.Exec(context.Background(), `SELECT FROM rebuild WHERE id = $1 FOR UPDATE`, r.ID)
	require.NoError(t, err)
	ctx, cancel := context.WithTimeout(context.Background(), 30*time.Second)
	defer cancel()
	_, _, err = s.Append(ctx, workshop.Asking{}, r.ID, "identify", remark("waits"), lead, "lock-key-2")
	require.Error(t, err)
	assert.NoError(t, ctx.Err(), "the database gave up, not the request")
	assert.True(t, conn.IsLost(err), "%v", err)
	require.NoError(t, tx.Rollback(context.Background()))
	_, _, err = s.Append(context.Background(), workshop.Asking{}, r.ID, "identify", remark("waits"), lead, "lock-key-2")
	require.NoError(t, err)
}
