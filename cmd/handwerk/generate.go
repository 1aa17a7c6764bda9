package main

import (
	"errors"
	"fmt"
	"time"

	"github.com/spf13/cobra"

	"handwerk/book/demo"
	"handwerk/book/files"
	bookshop "handwerk/book/shop"
	"handwerk/workshop/acts"
	"handwerk/workshop/kinds"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
	"handwerk/workshop/walk"
)

// generateCommand fills a database with load, for measuring.
func generateCommand() *cobra.Command {
	var rebuilds, entries int
	cmd := withDatabase("generate", "Fill the database with finished rebuilds, to measure under load", cobra.NoArgs,
		func(cmd *cobra.Command, _ config, d *database, _ []string) error {
			if empty, err := d.IsEmpty(cmd.Context()); err != nil || !empty {
				return errors.Join(
					err,
					errors.New("this database is not empty; generated rebuilds belong into a database of their own"),
				)
			}
			model, err := modelRebuild(entries)
			if err != nil {
				return err
			}
			if err := d.Generate(cmd.Context(), model, rebuilds); err != nil {
				return err
			}
			_, _ = fmt.Fprintf(cmd.OutOrStdout(), "%d rebuilds of %d entries generated.\n", rebuilds,
				len(model.Entries))
			return nil
		})
	cmd.Flags().IntVar(&rebuilds, "rebuilds", 10000, "how many rebuilds")
	cmd.Flags().IntVar(&entries, "entries", 150, "entries of each, at least")
	return cmd
}

// modelRebuild walks one rebuild to its end in memory and adds remarks up to
// the wanted length.
func modelRebuild(entries int) (record.Ledger, error) {
	b, err := files.Load(kinds.Natures(), bookshop.Files, demo.Files)
	if err != nil {
		return record.Ledger{}, err
	}
	c, err := b.Copy("transfer-case-dog", "brakka-t2")
	if err != nil {
		return record.Ledger{}, err
	}
	p, err := kinds.NewPlan(c)
	if err != nil {
		return record.Ledger{}, err
	}
	clock := time.Date(2025, 3, 3, 7, 30, 0, 0, time.UTC)
	lead := people.Person{Login: "load", Name: "Load generator", Role: people.Lead}
	l := record.Ledger{
		Rebuild: record.Rebuild{
			ID: "00000000-0000-0000-0000-000000000001", Complaint: "Bangs under load in four-wheel drive.",
			Promised: "2025-03-07", OpenedAt: clock, OpenedBy: lead, PlanHash: p.Hash,
			Vehicle: shop.Vehicle{ID: "load", Name: "Generated vehicle", Owner: "Load"}, Unit: shop.Unit{
				ID: "tc", Kind: "transfer case", Name: "Generated unit", Serial: "G", Sheet: "brakka-t2",
				Route: "transfer-case-dog",
			},
		},
		Plan: p,
		Asks: record.Asks{
			Drawer: func(string) (record.Drawer, error) { return record.Drawer{}, nil },
			Photo:  func(string) (string, error) { return "", nil },
		},
	}
	remark := record.Draft{Says: &acts.Note{Note: "looked again, nothing new"}}
	w := &walk.Walker{
		Ledger: l, Script: walk.Script{}, By: func(*record.Step) people.Person { return lead },
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
