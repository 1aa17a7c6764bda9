// Package seal proves that what was written is still there: digests, and the
// signed head of the log over all rebuilds.
package seal

import (
	"crypto/sha256"
	"encoding/hex"

	"handwerk/workshop/say"
)

// Digest is the SHA-256 over parts, each preceded by its length so that no two lists write alike.
func Digest(parts ...string) string {
	h := sha256.New()
	for _, p := range parts {
		h.Write([]byte(say.Itoa(len(p))))
		h.Write([]byte{':'})
		h.Write([]byte(p))
	}
	return hex.EncodeToString(h.Sum(nil))
}

// HashOf names a copy of the book by its content.
func HashOf(content []byte) string { return Digest(string(content)) }
