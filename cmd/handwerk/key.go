package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"sync"

	"github.com/spf13/cobra"
	"golang.org/x/mod/sumdb/tlog"

	"handwerk/postgres"
	"handwerk/workshop/seal"
)

// shelf keeps the shop's key and its last checkpoint, in files outside the
// database.
type shelf struct {
	seal.ShopKey
	file string // of the checkpoint

	mu sync.Mutex
}

// shopKey reads the key; os.ErrNotExist when there is none.
func (c config) shopKey() (seal.ShopKey, error) {
	raw, err := os.ReadFile(c.Key)
	if err != nil {
		return seal.ShopKey{}, err
	}
	k, err := seal.ReadShopKey(string(raw))
	if err != nil {
		return k, fmt.Errorf("%s: %w; put it back from a backup", c.Key, err)
	}
	return k, nil
}

// makeKey makes a key where there is none.
func (c config) makeKey() (seal.ShopKey, error) {
	k, err := seal.NewShopKey()
	if err != nil {
		return k, err
	}
	if err := os.MkdirAll(filepath.Dir(c.Key), 0o755); err != nil {
		return k, err
	}
	return k, postgres.WriteWhole(c.Key, func(w io.Writer) error { _, err := io.WriteString(w, k.Text()); return err })
}

// shelf opens the key, or makes it for a log that has not begun. A lost key is
// never made anew in silence: what it signed could not be proved any more.
func (c config) shelf(ctx context.Context, checkpoint func(context.Context) (seal.Checkpoint, error)) (*shelf, error) {
	k, err := c.shopKey()
	if errors.Is(err, os.ErrNotExist) {
		last, err := checkpoint(ctx)
		if err != nil {
			return nil, err
		}
		if last.Size > 0 {
			return nil, keyLost(c.Key)
		}
		if k, err = c.makeKey(); err != nil {
			return nil, err
		}
	} else if err != nil {
		return nil, err
	}
	return &shelf{ShopKey: k, file: c.Checkpoint}, nil
}

// keyLost names the file of a key that signed the log and is not there.
type keyLost string

func (file keyLost) Error() string {
	return string(file) + " is lost: it signed the log of this database. Put it back from a backup. " +
		"If there is none, make a new one with: handwerk key --new; what was signed until now cannot be proved then"
}

// Keep writes a checkpoint to its file. At the start it holds the log against
// the one that is there: a log that lost its end, or was written anew, is not
// gone on with, and the file stays as it is.
func (s *shelf) Keep(c seal.Checkpoint, rootAt func(int64) (tlog.Hash, error)) error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if rootAt != nil {
		if err := s.confirm(c, rootAt); err != nil {
			return err
		}
	}
	if c.Size == 0 {
		return nil
	}
	return postgres.WriteWhole(s.file, func(w io.Writer) error { _, err := io.WriteString(w, c.Note); return err })
}

func (s *shelf) confirm(c seal.Checkpoint, rootAt func(int64) (tlog.Hash, error)) error {
	raw, err := os.ReadFile(s.file)
	if errors.Is(err, os.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	kept, err := s.Open(string(raw))
	if err != nil {
		return fmt.Errorf("%s: %w", s.file, err)
	}
	wrong := kept.Size > c.Size
	if !wrong && kept.Size > 0 {
		root, err := rootAt(kept.Size)
		if err != nil {
			return err
		}
		wrong = root != kept.Root
	}
	if wrong {
		return fmt.Errorf("the log is not the one that %s was signed over: run handwerk verify. "+
			"If an older backup was restored on purpose, move that file away", s.file)
	}
	return nil
}

// keptCheckpoints are those in files: the one this program writes, if it is
// there, and those that were named.
func (c config) keptCheckpoints(k seal.ShopKey, named []string) ([]seal.Checkpoint, error) {
	var list []seal.Checkpoint
	if _, err := os.Stat(c.Checkpoint); err == nil {
		named = append([]string{c.Checkpoint}, named...)
	}
	for _, file := range named {
		raw, err := os.ReadFile(file)
		if err != nil {
			return nil, err
		}
		kept, err := k.Open(string(raw))
		if err != nil {
			return nil, fmt.Errorf("%s: %w", file, err)
		}
		list = append(list, kept)
	}
	return list, nil
}

func keyCommand() *cobra.Command {
	var anew bool
	cmd := &cobra.Command{
		Use: "key", Short: "Print the public line of the shop's key, which proves its checkpoints", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			c, err := readConfig()
			if err != nil {
				return err
			}
			k, err := c.shopKey()
			switch {
			case anew && err == nil:
				return fmt.Errorf("%s already exists; move it away first", c.Key)
			case anew && errors.Is(err, os.ErrNotExist):
				k, err = c.makeKey()
			case errors.Is(err, os.ErrNotExist):
				err = fmt.Errorf("there is no key at %s yet; serving makes it", c.Key)
			}
			if err != nil {
				return err
			}
			_, public, _ := strings.Cut(strings.TrimSpace(k.Text()), "\n")
			_, err = fmt.Fprintln(cmd.OutOrStdout(), public)
			return err
		},
	}
	cmd.Flags().BoolVar(&anew, "new", false, "make a new key where the old one is lost")
	return cmd
}
