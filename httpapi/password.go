package httpapi

import (
	"context"
	"net/http"
	"runtime"
	"strings"
	"sync"

	"github.com/alexedwards/argon2id"
	"github.com/ccojocar/zxcvbn-go"

	"handwerk/core/input"
	"handwerk/core/text"
)

// cost of argon2id: 19 MiB, 2 passes, 1 lane, the smallest the OWASP password
// storage cheat sheet recommends (from memory).
var cost = &argon2id.Params{Memory: 19 << 10, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// HashPassword makes the text that is kept for a password.
func HashPassword(password string) string {
	hash, err := argon2id.CreateHash(password, cost)
	if err != nil {
		panic(err) // of crypto/rand, which never fails
	}
	return hash
}

// nobody's hash makes an unknown name take as long as a wrong password.
var nobody = sync.OnceValue(func() string { return HashPassword("nobody signs in with this") })

// CheckPassword compares in constant time. An empty hash never fits.
func CheckPassword(hash, password string) bool {
	known := hash != ""
	if !known {
		hash = nobody()
	}
	fits, err := argon2id.ComparePasswordAndHash(password, hash)
	return err == nil && fits && known
}

// The bounds of a password. Guessable ones are refused whatever their length:
// score 2 of zxcvbn is a guess in more than a million tries.
const (
	shortestPassword = 10
	longestPassword  = 200
	leastScore       = 2
	judgedCharacters = 60 // judging takes its time; what is longer is not guessed
)

// JudgePassword refuses a password that is too short, too long or easily
// guessed, for a person of this name.
func JudgePassword(password, login, name string) error {
	const accepted = "10 to 200 characters, hard to guess; four unrelated words work well"
	bad := text.Bad(password)
	n := text.Length(password)
	switch {
	case bad != "":
		return input.At("password", text.Accepted, "%s", bad)
	case strings.TrimSpace(password) == "":
		return input.At("password", accepted, "a password cannot be only spaces")
	case n < shortestPassword || n > longestPassword:
		return input.At("password", accepted, "it has %d characters", n)
	}
	judged := string([]rune(password)[:min(n, judgedCharacters)])
	if zxcvbn.PasswordStrength(judged, append(strings.Fields(name), login, "handwerk")).Score < leastScore {
		return input.At("password", accepted, "it is too easy to guess")
	}
	return nil
}

// hashing bounds how many passwords are hashed at once, and how many wait.
type hashing struct{ working, waiting chan struct{} }

func newHashing() hashing {
	return hashing{make(chan struct{}, min(2, runtime.GOMAXPROCS(0))), make(chan struct{}, 8)}
}

// check is CheckPassword in its turn; when too many wait it says so.
func (h hashing) check(ctx context.Context, hash, password string) (bool, error) {
	busy := problem(http.StatusTooManyRequests, "Too many at once",
		"The server is busy. Try again in a few seconds.")
	busy.RetryAfter = 2
	select {
	case h.waiting <- struct{}{}:
		defer func() { <-h.waiting }()
	default:
		return false, busy
	}
	select {
	case h.working <- struct{}{}:
		defer func() { <-h.working }()
	case <-ctx.Done():
		return false, busy
	}
	return CheckPassword(hash, password), nil
}
