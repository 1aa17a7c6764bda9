package seal

import (
	"crypto/rand"
	"encoding/base64"
	"fmt"
	"strconv"
	"strings"

	"golang.org/x/mod/sumdb/note"
	"golang.org/x/mod/sumdb/tlog"
)

// Leaf is one line of the log over all rebuilds: the record of a rebuild stood
// at this head. The head's chain covers every entry before it.
type Leaf struct {
	N       int64  `db:"n"`
	Rebuild string `db:"rebuild_id"`
	Number  string `db:"number"`
	Seq     int    `db:"seq"`
	Hash    string `db:"hash"`
}

// Record is the text that the log's tree hashes for the leaf.
func (l Leaf) Record() []byte {
	return fmt.Appendf(nil, "%s\n%s\n%d\n%s\n", l.Rebuild, l.Number, l.Seq, l.Hash)
}

// Checkpoint is the head of the log: how many leaves it has and the hash of
// its tree (RFC 6962), signed by the shop.
type Checkpoint struct {
	Size int64
	Root tlog.Hash
	Note string // as signed, to be printed and kept
}

// checkpointOrigin is the first line of every checkpoint; two lines follow,
// size and root, as in the checkpoints of transparency logs.
const checkpointOrigin = "handwerk/log"

// ShopKey signs the shop's checkpoints. Whoever holds it can write another
// history, so it is kept outside the database.
type ShopKey struct {
	private note.Signer
	public  note.Verifier
	text    string
}

// NewShopKey makes a key.
func NewShopKey() (ShopKey, error) {
	private, public, err := note.GenerateKey(rand.Reader, "handwerk")
	if err != nil {
		return ShopKey{}, err
	}
	return ReadShopKey(private + "\n" + public + "\n")
}

// ReadShopKey reads what Text gave: the private line and the public one.
func ReadShopKey(text string) (ShopKey, error) {
	private, public, ok := strings.Cut(strings.TrimSpace(text), "\n")
	if !ok {
		return ShopKey{}, fmt.Errorf("the shop's key needs two lines, the private and the public one")
	}
	signer, err := note.NewSigner(private)
	if err != nil {
		return ShopKey{}, fmt.Errorf("the first line is no private key: %w", err)
	}
	verifier, err := note.NewVerifier(public)
	if err != nil {
		return ShopKey{}, fmt.Errorf("the second line is no public key: %w", err)
	}
	return ShopKey{signer, verifier, private + "\n" + public + "\n"}, nil
}

// ReadPublicKey reads the public line alone: it proves, and signs nothing.
func ReadPublicKey(line string) (ShopKey, error) {
	verifier, err := note.NewVerifier(strings.TrimSpace(line))
	if err != nil {
		return ShopKey{}, fmt.Errorf("this is no public line of a shop's key: %w", err)
	}
	return ShopKey{public: verifier}, nil
}

// Text is the key as it is kept in its file.
func (k ShopKey) Text() string { return k.text }

// Sign makes the checkpoint of a log.
func (k ShopKey) Sign(size int64, root tlog.Hash) (Checkpoint, error) {
	text, err := note.Sign(
		&note.Note{Text: fmt.Sprintf("%s\n%d\n%s\n", checkpointOrigin, size,
			base64.StdEncoding.EncodeToString(root[:]))},
		k.private,
	)
	return Checkpoint{size, root, string(text)}, err
}

// Open reads a checkpoint and proves that this key signed it.
func (k ShopKey) Open(text string) (Checkpoint, error) {
	n, err := note.Open([]byte(text), note.VerifierList(k.public))
	if err != nil {
		return Checkpoint{}, fmt.Errorf("this is no checkpoint signed with the shop's key: %w", err)
	}
	lines := strings.Split(n.Text, "\n")
	if len(lines) != 4 || lines[0] != checkpointOrigin {
		return Checkpoint{}, fmt.Errorf("this note is no checkpoint of a log")
	}
	size, err1 := strconv.ParseInt(lines[1], 10, 64)
	root, err2 := tlog.ParseHash(lines[2])
	if err1 != nil || err2 != nil || size < 0 {
		return Checkpoint{}, fmt.Errorf("this checkpoint has no size or no hash")
	}
	return Checkpoint{size, root, text}, nil
}
