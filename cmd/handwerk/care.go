package main

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"handwerk/book"
	"handwerk/core/plan"
	"handwerk/httpapi"
	"handwerk/postgres"
	"handwerk/report"
	"handwerk/workshop"
)

// withStore is a command that works on the migrated database.
func withStore(use, short string, args cobra.PositionalArgs, f func(*cobra.Command, *postgres.Store, []string) error) *cobra.Command {
	return &cobra.Command{Use: use, Short: short, Args: args, RunE: func(cmd *cobra.Command, args []string) error {
		c, err := readConfig()
		if err != nil {
			return err
		}
		store, done, err := c.migrated(cmd.Context())
		if err != nil {
			return err
		}
		defer done()
		return f(cmd, store, args)
	}}
}

func migrateCommand() *cobra.Command {
	return withStore("migrate", "Bring the database's schema up to date", cobra.NoArgs, func(cmd *cobra.Command, _ *postgres.Store, _ []string) error {
		_, _ = fmt.Fprintln(cmd.OutOrStdout(), "The schema is up to date.")
		return nil
	})
}

func verifyCommand() *cobra.Command {
	return withStore("verify", "Prove that every record is as it was written", cobra.NoArgs, func(cmd *cobra.Command, store *postgres.Store, _ []string) error {
		bad := 0
		rebuilds, entries, err := store.VerifyAll(cmd.Context(), func(found error) {
			bad++
			_, _ = fmt.Fprintln(cmd.ErrOrStderr(), found)
		})
		if err != nil {
			return err
		}
		if bad > 0 {
			return fmt.Errorf("%d of %d records do not hold", bad, rebuilds)
		}
		_, _ = fmt.Fprintf(cmd.OutOrStdout(), "%d rebuilds with %d entries: every record holds.\n", rebuilds, entries)
		return nil
	})
}

func exportCommand() *cobra.Command {
	return withStore("export NUMBER [FILE]", "Write a rebuild as a JSON archive", cobra.RangeArgs(1, 2), func(cmd *cobra.Command, store *postgres.Store, args []string) error {
		l, err := store.LedgerByNumber(cmd.Context(), args[0])
		if err != nil {
			return err
		}
		photos, err := store.Photos(cmd.Context(), l.Rebuild.ID)
		if err != nil {
			return err
		}
		if len(args) == 1 {
			return report.WriteArchive(cmd.OutOrStdout(), l, photos)
		}
		return writeWhole(args[1], func(w io.Writer) error { return report.WriteArchive(w, l, photos) })
	})
}

// writeWhole writes a file beside its place and moves it there when complete.
func writeWhole(name string, write func(io.Writer) error) (err error) {
	f, err := os.CreateTemp(filepath.Dir(name), ".handwerk-*")
	if err != nil {
		return err
	}
	defer func() { _ = os.Remove(f.Name()) }() // gone already after a rename
	if err := errors.Join(write(f), f.Sync(), f.Close()); err != nil {
		return err
	}
	return os.Rename(f.Name(), name)
}

func importCommand() *cobra.Command {
	return withStore("import FILE", "Take in a rebuild from a JSON archive (- reads standard input)", cobra.ExactArgs(1), func(cmd *cobra.Command, store *postgres.Store, args []string) error {
		in := cmd.InOrStdin()
		if args[0] != "-" {
			f, err := os.Open(args[0])
			if err != nil {
				return err
			}
			defer func() { _ = f.Close() }()
			in = f
		}
		l, photos, err := report.ReadArchive(in)
		if err != nil {
			return err
		}
		if err := store.Import(cmd.Context(), l, photos); err != nil {
			return err
		}
		_, _ = fmt.Fprintf(cmd.OutOrStdout(), "Rebuild %s is in: %d entries, %d pictures, verified.\n", l.Rebuild.Number, len(l.Entries), len(photos))
		return nil
	})
}

func accountCommand() *cobra.Command {
	var name, role string
	cmd := withStore("account LOGIN", "Add a person, or renew name, role and password (password on standard input)", cobra.ExactArgs(1), func(cmd *cobra.Command, store *postgres.Store, args []string) error {
		person := workshop.Person{Login: strings.ToLower(args[0]), Name: name, Role: workshop.Role(role)}
		if person.Role != workshop.Reader && person.Role != workshop.Mechanic && person.Role != workshop.Lead {
			return fmt.Errorf("--role: %q is not a role; accepted: reader, mechanic, lead", role)
		}
		if person.Name == "" {
			return errors.New("--name: missing; the name as it will stand in the record")
		}
		password, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
		password = strings.TrimRight(password, "\r\n")
		if (err != nil && !errors.Is(err, io.EOF)) || len(password) < 10 || len(password) > 200 {
			return errors.New("the password on standard input needs 10 to 200 characters")
		}
		return store.KeepAccount(cmd.Context(), workshop.Account{Person: person, PasswordHash: httpapi.HashPassword(password)})
	})
	cmd.Flags().StringVar(&name, "name", "", "name as it stands in the record")
	cmd.Flags().StringVar(&role, "role", "mechanic", "reader, mechanic or lead")
	return cmd
}

// generateCommand fills a database with load, for measuring.
func generateCommand() *cobra.Command {
	var rebuilds, entries int
	cmd := withStore("generate", "Fill the database with finished rebuilds, to measure under load", cobra.NoArgs, func(cmd *cobra.Command, store *postgres.Store, _ []string) error {
		model, err := modelRebuild(entries)
		if err != nil {
			return err
		}
		if err := store.Generate(cmd.Context(), model, rebuilds); err != nil {
			return err
		}
		_, _ = fmt.Fprintf(cmd.OutOrStdout(), "%d rebuilds of %d entries generated.\n", rebuilds, len(model.Entries))
		return nil
	})
	cmd.Flags().IntVar(&rebuilds, "rebuilds", 10000, "how many rebuilds")
	cmd.Flags().IntVar(&entries, "entries", 150, "entries of each, at least")
	return cmd
}

// modelRebuild walks one rebuild to its end in memory and adds remarks up to
// the wanted length.
func modelRebuild(entries int) (workshop.Ledger, error) {
	b, err := book.Load(book.Shop(), book.Demo())
	if err != nil {
		return workshop.Ledger{}, err
	}
	c, err := b.Copy("transfer-case-dog", "brakka-t2")
	if err != nil {
		return workshop.Ledger{}, err
	}
	p, err := workshop.NewPlan(c)
	if err != nil {
		return workshop.Ledger{}, err
	}
	clock := time.Date(2025, 3, 3, 7, 30, 0, 0, time.UTC)
	lead := workshop.Person{Login: "load", Name: "Load generator", Role: workshop.Lead}
	l := workshop.Ledger{
		Rebuild: workshop.Rebuild{
			ID: "00000000-0000-0000-0000-000000000001", Complaint: "Bangs under load in four-wheel drive.", Promised: "2025-03-07", OpenedAt: clock, OpenedBy: lead, PlanHash: p.Hash,
			Vehicle: workshop.Vehicle{ID: "load", Name: "Generated vehicle", Owner: "Load"}, Unit: workshop.Unit{ID: "tc", Kind: "transfer case", Name: "Generated unit", Serial: "G", Sheet: "brakka-t2", Route: "transfer-case-dog"},
		},
		Plan:   p,
		Drawer: func(string) (workshop.Drawer, error) { return workshop.Drawer{}, nil },
		Photo:  func(string) (bool, error) { return false, nil },
	}
	remark := workshop.Draft{Act: workshop.ActNote, Body: workshop.Body{Note: "looked again, nothing new"}}
	w := &workshop.Walker{
		Ledger: l, Script: workshop.Script{}, By: func(plan.Step) workshop.Person { return lead },
		Clock: func() time.Time { clock = clock.Add(4 * time.Minute); return clock },
	}
	if _, err := w.WalkUntil(""); err != nil {
		return l, err
	}
	for len(w.Ledger.Entries) < entries {
		w.Script["parts"] = append(w.Script["parts"], remark)
		if err := w.Finish("parts"); err != nil {
			return l, err
		}
	}
	return w.Ledger, nil
}

func openapiCommand() *cobra.Command {
	return &cobra.Command{Use: "openapi", Short: "Print the OpenAPI document of the API", Args: cobra.NoArgs, RunE: func(cmd *cobra.Command, _ []string) error {
		document, err := httpapi.Document()
		if err != nil {
			return err
		}
		_, _ = fmt.Fprintln(cmd.OutOrStdout(), string(document))
		return nil
	}}
}
