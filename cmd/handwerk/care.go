package main

import (
	"errors"
	"fmt"
	"io"
	"os"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"handwerk/httpapi"
	"handwerk/postgres"
	"handwerk/report"
	"handwerk/workshop/say"
	"handwerk/workshop/seal"
)

// work is what a command does on the migrated database.
type work = func(cmd *cobra.Command, c config, d *database, args []string) error

// withDatabase is a command that works on the migrated database and may take
// its time.
func withDatabase(use, short string, args cobra.PositionalArgs, do work) *cobra.Command {
	return &cobra.Command{Use: use, Short: short, Args: args, RunE: func(cmd *cobra.Command, args []string) error {
		c, err := readConfig()
		if err != nil {
			return err
		}
		d, err := c.open(cmd.Context(), c.logger(), true)
		if err != nil {
			return err
		}
		defer d.close()
		return do(cmd, c, d, args)
	}}
}

// tell writes what a command has to tell.
func tell(cmd *cobra.Command, format string, about ...any) error {
	_, err := fmt.Fprintf(cmd.OutOrStdout(), format, about...)
	return err
}

func migrateCommand() *cobra.Command {
	return withDatabase("migrate", "Bring the database's schema up to date", cobra.NoArgs,
		func(cmd *cobra.Command, _ config, _ *database, _ []string) error {
			return tell(cmd, "The schema is up to date.\n")
		})
}

func verifyCommand() *cobra.Command {
	var files []string
	var public string
	var mend bool
	cmd := withDatabase("verify", "Prove that no record was changed and none is missing", cobra.NoArgs,
		func(cmd *cobra.Command, c config, d *database, _ []string) error {
			if mend {
				made, err := d.MendLog(cmd.Context())
				if err != nil {
					return err
				}
				if err := tell(cmd, "%d hashes of the log were rebuilt from its leaves.\n", made); err != nil {
					return err
				}
			}
			return verify(cmd, c, d.Store, files, public)
		})
	cmd.Flags().StringVar(&public, "public", "", "the public line of the shop's key: proves without the private one")
	cmd.Flags().BoolVar(&mend, "mend", false, "first rebuild lost hashes of the log from its leaves")
	cmd.Flags().StringArrayVar(
		&files, "checkpoint", nil, "a checkpoint that was kept elsewhere: everything of that day must still be there as it was",
	)
	return cmd
}

// errNotProved: every chain holds, and nothing tells that none is gone.
var errNotProved = errors.New("that none is gone cannot be proved: the shop's key is not there. " +
	"Name its public line: handwerk verify --public LINE")

func verify(cmd *cobra.Command, c config, store *postgres.Store, files []string, public string) error {
	var signed *seal.ShopKey
	var kept []seal.Checkpoint
	k, err := c.shopKey()
	if public != "" {
		k, err = seal.ReadPublicKey(public)
	}
	switch {
	case err == nil:
		signed = &k
		if kept, err = c.keptCheckpoints(k, files); err != nil {
			return err
		}
	case !errors.Is(err, os.ErrNotExist):
		return err
	}
	bad := 0
	v, err := store.VerifyAll(cmd.Context(), signed, kept, func(found error) {
		bad++
		_, _ = fmt.Fprintln(cmd.ErrOrStderr(), found)
	})
	if err != nil {
		return err
	}
	if bad > 0 {
		return fmt.Errorf("the record does not verify: %s found", say.Several(bad, "fault", "faults"))
	}
	err = tell(cmd, "%d rebuilds with %d entries and %d pictures: every record holds. "+
		"The log of %d heads holds against %d checkpoints.\n",
		v.Rebuilds, v.Entries, v.Photos, v.Leaves, v.Checkpoints)
	if err == nil && signed == nil && v.Leaves > 0 {
		err = errNotProved
	}
	return err
}

func exportCommand() *cobra.Command {
	return withDatabase("export NUMBER [FILE]", "Write a rebuild as a JSON archive", cobra.RangeArgs(1, 2),
		func(cmd *cobra.Command, _ config, d *database, args []string) error {
			l, err := d.LedgerByNumber(cmd.Context(), args[0])
			if err != nil {
				return err
			}
			write := func(w io.Writer) error { return report.WriteArchive(w, l, d.Photos(cmd.Context(), l.Rebuild.ID)) }
			if len(args) == 1 {
				return write(cmd.OutOrStdout())
			}
			if err := postgres.WriteWhole(args[1], write); err != nil {
				return err
			}
			return tell(cmd, "Rebuild %s is in %s: %d entries.\n", l.Rebuild.Number, args[1], len(l.Entries))
		})
}

func importCommand() *cobra.Command {
	return withDatabase("import FILE", "Import a rebuild from a JSON archive (- reads standard input)",
		cobra.ExactArgs(1),
		func(cmd *cobra.Command, c config, d *database, args []string) error {
			in := cmd.InOrStdin()
			if args[0] != "-" {
				f, err := os.Open(args[0])
				if err != nil {
					return err
				}
				defer func() { _ = f.Close() }()
				in = f
			}
			a, err := report.ReadArchive(in)
			if err != nil {
				return err
			}
			pictures, err := d.Import(cmd.Context(), a.Ledger, a.Photos(cmd.Context()))
			if err != nil {
				return err
			}
			c.logger().Warn("security", "event", "rebuild imported",
				"rebuild", a.Rebuild.Number, "entries", len(a.Entries), "pictures", pictures)
			return tell(cmd, "Rebuild %s is in: %d entries, %d pictures, verified.\n", a.Rebuild.Number,
				len(a.Entries), pictures)
		})
}

func backupCommand() *cobra.Command {
	return withDatabase("backup FILE", "Write everything that is in the database at this moment into one file",
		cobra.ExactArgs(1),
		func(cmd *cobra.Command, c config, d *database, args []string) error {
			owner, err := d.owner(cmd.Context())
			if err != nil {
				return err
			}
			defer func() { _ = owner.Close() }()
			var m postgres.Manifest
			err = postgres.WriteWhole(args[0], func(w io.Writer) (err error) {
				m, err = owner.Backup(cmd.Context(), w, time.Now())
				return err
			})
			if err != nil {
				return err
			}
			return tell(cmd, "%s holds everything: %d rebuilds, %d entries, %d pictures, %d people.\n"+
				"The shop's key is not in it; keep %s elsewhere too.\n",
				args[0], m.Tables["rebuild"].Rows, m.Tables["entry"].Rows, m.Tables["photo"].Rows,
				m.Tables["account"].Rows, c.Key)
		})
}

// restoreCommand does not migrate before: what is there is looked at as it is.
func restoreCommand() *cobra.Command {
	const short = "Put a backup into an empty database, and verify it row for row"
	return &cobra.Command{Use: "restore FILE", Short: short, Args: cobra.ExactArgs(1), RunE: func(
		cmd *cobra.Command, args []string,
	) error {
		ctx := cmd.Context()
		c, err := readConfig()
		if err != nil {
			return err
		}
		d, o, url, err := c.reach(ctx, c.logger())
		if err != nil {
			return err
		}
		defer func() { d.close() }()
		owner, err := d.owner(ctx)
		if err != nil {
			return err
		}
		m, err := owner.Restore(ctx, args[0])
		_ = owner.Close()
		if err != nil {
			return err
		}
		if err := d.migrate(ctx); err != nil {
			return err
		}
		o.Patient = true
		store, err := postgres.Open(ctx, url, o)
		if err != nil {
			return err
		}
		defer func() { _ = store.Close() }()
		c.logger().Warn("security", "event", "backup restored", "made", say.Moment(m.Made, c.zone))
		if _, err := fmt.Fprintf(
			cmd.OutOrStdout(), "%s is restored: %d tables, checked row by row.\n", say.Moment(m.Made, c.zone),
			len(m.Tables),
		); err != nil {
			return err
		}
		if err := lockOut(cmd, store); err != nil {
			return err
		}
		return verify(cmd, c, store, nil, "")
	}}
}

// lockOut ends what was given out before, and says who may come back.
func lockOut(cmd *cobra.Command, store *postgres.Store) error {
	ended, err := store.LockOut(cmd.Context(), time.Now())
	if err != nil {
		return err
	}
	people, err := store.People(cmd.Context())
	if err != nil {
		return err
	}
	out := cmd.OutOrStdout()
	if _, err := fmt.Fprintf(out, "Sessions and tokens are ended (%d), tablets are to be enrolled again. "+
		"These may sign in; close who has left since:\n", ended); err != nil {
		return err
	}
	for _, p := range people {
		if p.ClosedAt != nil {
			continue
		}
		if _, err := fmt.Fprintf(out, "  %s, %s, %s\n", p.Login, p.Name, p.Role); err != nil {
			return err
		}
	}
	erased, open, err := store.EraseAgain(cmd.Context(), time.Now())
	if err != nil {
		return err
	}
	_, err = fmt.Fprintf(out, "Customers erased since this backup was made, and erased again now: %d.\n", erased)
	if err == nil && len(open) > 0 {
		_, err = fmt.Fprintf(out, "These have a rebuild open in it; hand it over, then erase them: %s\n",
			strings.Join(open, ", "))
	}
	return err
}

func openapiCommand() *cobra.Command {
	return &cobra.Command{Use: "openapi", Short: "Print the OpenAPI document of the API", Args: cobra.NoArgs,
		RunE: func(
			cmd *cobra.Command, _ []string,
		) error {
			document, err := httpapi.Document()
			if err != nil {
				return err
			}
			_, err = fmt.Fprintln(cmd.OutOrStdout(), string(document))
			return err
		}}
}
