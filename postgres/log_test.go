package postgres_test

import (
	"bytes"
	"context"
	"log/slog"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/mod/sumdb/tlog"

	"handwerk/postgres/pgtest"
	"handwerk/workshop"
	"handwerk/workshop/seal"
)

// keeper signs in memory and remembers the last checkpoint.
type keeper struct {
	seal.ShopKey
	mu   sync.Mutex
	last seal.Checkpoint
}

func (k *keeper) Keep(c seal.Checkpoint, _ func(int64) (tlog.Hash, error)) error {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.last = c
	return nil
}

func (k *keeper) size() int64 {
	k.mu.Lock()
	defer k.mu.Unlock()
	return k.last.Size
}

// logged writes the log until it has n leaves, and gives key and checkpoint.
func (s *bench) logged(t testing.TB, key seal.ShopKey, n int64) seal.Checkpoint {
	t.Helper()
	k := &keeper{ShopKey: key}
	ctx, cancel := context.WithCancel(context.Background())
	done := make(chan struct{})
	go func() {
		s.store.WriteLog(ctx, slog.New(slog.DiscardHandler), k)
		close(done)
	}()
	require.Eventually(t, func() bool { return k.size() >= n }, 20*time.Second, 20*time.Millisecond)
	cancel()
	<-done
	return k.last
}

func shopKey(t testing.TB) seal.ShopKey {
	t.Helper()
	key, err := seal.NewShopKey()
	require.NoError(t, err)
	return key
}

func TestEveryHeadIsLogged(t *testing.T) {
	t.Parallel()
	s := newShop(t)
	key := shopKey(t)
	a, b := s.open(t), s.open(t)
	first := s.logged(t, key, 2)
	opened, err := key.Open(first.Note)
	require.NoError(t, err)
	assert.Equal(t, first, opened)

	s.walk(t, a.ID, "on-vehicle")
	second := s.logged(t, key, 3)
	v, found := s.verified(t, &key, first, second)
	assert.Empty(t, found, "everything of the first checkpoint is still there")
	assert.EqualValues(t, 3, v.Leaves)
	assert.Equal(t, 3, v.Checkpoints)
	_, _, err = s.Append(context.Background(), workshop.Asking{}, b.ID, "identify", outcome("serial", "done"), lead,
		"after-log")
	require.NoError(t, err)
	_, found = s.verified(t, &key, second)
	assert.Empty(t, found, "what is not logged yet is no fault")
	assert.EqualValues(t, 4, s.logged(t, key, 4).Size)

	_, err = shopKey(t).Open(second.Note)
	require.ErrorContains(t, err, "no checkpoint signed with the shop's key")
	_, err = key.Open(strings.Replace(second.Note, "\n3\n", "\n2\n", 1))
	require.Error(t, err, "a changed checkpoint")
}

// One process writes the log; the other takes over when it is gone.
func TestOneProcessWritesTheLog(t *testing.T) {
	t.Parallel()
	s := newShop(t)
	other := openShop(t, s.url)
	key := shopKey(t)
	s.open(t)
	first, cancel := context.WithCancel(context.Background())
	one, two := &keeper{ShopKey: key}, &keeper{ShopKey: key}
	go s.store.WriteLog(first, slog.New(slog.DiscardHandler), one)
	require.Eventually(t, func() bool { return one.size() == 1 }, 20*time.Second, 20*time.Millisecond)
	second, end := context.WithCancel(context.Background())
	defer end()
	go other.store.WriteLog(second, slog.New(slog.DiscardHandler), two)
	s.open(t)
	require.Eventually(t, func() bool { return one.size() == 2 }, 20*time.Second, 20*time.Millisecond)
	assert.Zero(t, two.size())
	cancel()
	s.open(t)
	require.Eventually(t, func() bool { return two.size() == 3 }, 20*time.Second, 20*time.Millisecond)
}

// rehash writes the chain of a rebuild anew after somebody changed it, with
// every hash right: the chain alone would hold.
func rehash(t testing.TB, s *bench, id string) {
	t.Helper()
	db := s.raw(t)
	l, err := s.store.Ledger(context.Background(), id)
	require.NoError(t, err)
	before := l.Rebuild.Seal()
	for _, e := range l.Entries {
		if e.Seq == 2 {
			e.By.Name = "Somebody Else"
		}
		e.Hash = e.Chain(before)
		before = e.Hash
		_, err := db.Exec(`UPDATE entry SET by_name = $3, hash = $4 WHERE rebuild_id = $1 AND seq = $2`, id, e.Seq,
			e.By.Name, e.Hash)
		require.NoError(t, err)
	}
	_, err = db.Exec(`UPDATE rebuild SET head_hash = $2 WHERE id = $1`, id, before)
	require.NoError(t, err)
}

// Whoever owns the database can take its guards off; each of these leaves every
// chain in order, and is found by the log.
func TestVerifySeesWhatIsMissing(t *testing.T) {
	t.Parallel()
	unguarded := `ALTER TABLE entry DISABLE TRIGGER USER; ALTER TABLE rebuild DISABLE TRIGGER USER; ALTER TABLE photo DISABLE TRIGGER USER;
		ALTER TABLE log_leaf DISABLE TRIGGER USER; ALTER TABLE log_hash DISABLE TRIGGER USER; ALTER TABLE checkpoint DISABLE TRIGGER USER;
		GRANT ALL ON ALL TABLES IN SCHEMA public TO CURRENT_USER`
	for name, tt := range map[string]struct {
		do   string
		says string
	}{
		"tail cut, head moved back": {`DELETE FROM entry WHERE rebuild_id = $1 AND seq > 3;
			UPDATE rebuild SET head_seq = 3, head_hash = (SELECT hash FROM entry WHERE rebuild_id = $1 AND seq = 3) WHERE id = $1`, "its end was cut off"},
		"rebuild gone":     {`DELETE FROM photo WHERE rebuild_id = $1; DELETE FROM entry WHERE rebuild_id = $1; DELETE FROM rebuild WHERE id = $1`, "the whole rebuild is gone"},
		"photograph":       {`UPDATE photo SET bytes = 'x', sha256 = encode(sha256('x'), 'hex') WHERE rebuild_id = $1`, "its picture was changed"},
		"photograph alone": {`UPDATE photo SET bytes = 'x' WHERE rebuild_id = $1`, "is not the one that was taken"},
		"photograph gone":  {`DELETE FROM photo WHERE rebuild_id = $1`, "its picture is gone"},
		"log cut short": {`DELETE FROM log_leaf WHERE n > 0; DELETE FROM checkpoint WHERE size > 1`,
			"its end is gone"},
		"log emptied":  {`DELETE FROM log_leaf; DELETE FROM log_hash; DELETE FROM checkpoint`, "its end is gone"},
		"leaf changed": {`UPDATE log_leaf SET number = 'x' WHERE n = 0`, "was rewritten"},
		"all emptied":  {`DELETE FROM photo; DELETE FROM entry; DELETE FROM rebuild; DELETE FROM log_leaf; DELETE FROM checkpoint`, "its end is gone"},
		"hashed anew":  {"", "was rewritten after it was logged"},
	} {
		t.Run(name, func(t *testing.T) {
			s := newShop(t)
			key := shopKey(t)
			a := s.open(t)
			s.open(t)
			s.walk(t, a.ID, "on-vehicle")
			s.photo(t, a.ID)
			kept := s.logged(t, key, 2)
			_, found := s.verified(t, &key, kept)
			require.Empty(t, found)
			db := s.raw(t)
			_, err := db.Exec(unguarded)
			require.NoError(t, err)
			if tt.do == "" {
				rehash(t, s, a.ID)
			} else {
				_, err = db.Exec(strings.ReplaceAll(tt.do, "$1", "'"+a.ID+"'"))
				require.NoError(t, err)
			}
			_, found = s.verified(t, &key, kept)
			require.NotEmpty(t, found)
			var said bytes.Buffer
			for _, err := range found {
				said.WriteString(err.Error() + "\n")
			}
			assert.Contains(t, said.String(), tt.says)
		})
	}
}

// The role that serves can do nothing to what is kept for good.
func TestServingOwnsNothing(t *testing.T) {
	t.Parallel()
	s := newShop(t)
	r := s.open(t)
	s.walk(t, r.ID, "on-vehicle")
	s.photo(t, r.ID)
	owns, err := s.store.Owns(context.Background())
	require.NoError(t, err)
	assert.False(t, owns)
	conn := pgtest.Serving(t, s.url)
	for _, statement := range []string{
		`UPDATE entry SET act = 'x'`, `DELETE FROM entry`, `TRUNCATE entry`,
		`CREATE TRIGGER x BEFORE INSERT ON entry FOR EACH ROW EXECUTE FUNCTION keep_for_good()`,
		`ALTER TABLE entry DISABLE TRIGGER USER`, `DROP TABLE entry`,
		`UPDATE plan_copy SET body = '{}'`, `DELETE FROM plan_copy`, `UPDATE photo SET type = 'x'`,
		`DELETE FROM photo`,
		`INSERT INTO log_leaf (n, rebuild_id, number, seq, hash) SELECT 99, id, number, 1, head_hash FROM rebuild`,
		`UPDATE log_leaf SET number = 'x'`, `DELETE FROM log_hash`, `DELETE FROM checkpoint`, `DELETE FROM rebuild`,
		`UPDATE rebuild SET complaint = 'x'`, `DELETE FROM account`, `CREATE TABLE x (n int)`, `SET ROLE handwerk`,
	} {
		_, err := conn.Exec(context.Background(), statement)
		require.Error(t, err, statement)
		assert.Contains(t, err.Error(), "42501", "%s: insufficient privilege", statement)
	}
}
