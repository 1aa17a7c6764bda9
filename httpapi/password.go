package httpapi

import (
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"fmt"
	"sync"

	"golang.org/x/crypto/argon2"
)

// Cost of argon2id: 19 MiB, 2 passes, 1 lane, the smallest the OWASP password
// storage cheat sheet recommends (from memory); two run at once at most.
const (
	argonMemory = 19 << 10
	argonTime   = 2
	argonLanes  = 1
	argonKey    = 32
)

// HashPassword makes the text that is kept for a password.
func HashPassword(password string) string {
	salt := make([]byte, 16)
	_, _ = rand.Read(salt) // never fails, see crypto/rand
	key := argon2.IDKey([]byte(password), salt, argonTime, argonMemory, argonLanes, argonKey)
	return fmt.Sprintf("$argon2id$v=%d$m=%d,t=%d,p=%d$%s$%s", argon2.Version, argonMemory, argonTime, argonLanes,
		base64.RawStdEncoding.EncodeToString(salt), base64.RawStdEncoding.EncodeToString(key))
}

// nobody's hash makes an unknown name take as long as a wrong password.
var nobody = sync.OnceValue(func() string { return HashPassword("nobody signs in with this") })

// CheckPassword compares in constant time. An empty hash never fits.
func CheckPassword(hash, password string) bool {
	known := hash != ""
	if !known {
		hash = nobody()
	}
	var version, memory, time, lanes int
	var salt64 string
	if _, err := fmt.Sscanf(hash, "$argon2id$v=%d$m=%d,t=%d,p=%d$%s", &version, &memory, &time, &lanes, &salt64); err != nil {
		return false
	}
	var key64 string
	for i := range salt64 {
		if salt64[i] == '$' {
			salt64, key64 = salt64[:i], salt64[i+1:]
			break
		}
	}
	salt, err1 := base64.RawStdEncoding.DecodeString(salt64)
	want, err2 := base64.RawStdEncoding.DecodeString(key64)
	if err1 != nil || err2 != nil || len(want) == 0 || memory > 1<<20 || time < 1 || lanes < 1 || lanes > 16 {
		return false
	}
	got := argon2.IDKey([]byte(password), salt, uint32(time), uint32(memory), uint8(lanes), uint32(len(want)))
	return subtle.ConstantTimeCompare(got, want) == 1 && known
}
