package main

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"strconv"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"handwerk/book"
	"handwerk/book/demo"
	"handwerk/book/files"
	bookshop "handwerk/book/shop"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/httpapi"
	"handwerk/postgres"
	"handwerk/workshop"
	"handwerk/workshop/acts"
	"handwerk/workshop/people"
	"handwerk/workshop/record"
	"handwerk/workshop/shop"
	"handwerk/workshop/walk"
)

// demoPassword opens every account of the invented workshop; it is printed at
// the start and guards nothing but invented data.
const demoPassword = "tide-and-torque"

func demoCommand() *cobra.Command {
	return &cobra.Command{
		Use: "demo", Short: "Serve the invented archipelago's workshop, ready to look at", Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			c, err := readConfig()
			if err != nil {
				return err
			}
			c.forDemo()
			return run(cmd.Context(), cmd.OutOrStdout(), c, []fs.FS{bookshop.Files, demo.Files}, prepareDemo)
		},
	}
}

// prepareDemo loads the scenario into a new database, once.
func prepareDemo(ctx context.Context, store *postgres.Store, b book.Book) (string, error) {
	s, err := files.LoadScenario(demo.Files)
	if err != nil {
		return "", err
	}
	err = store.Once(ctx, "demo loaded", func() error {
		if err := claimForDemo(ctx, store); err != nil {
			return err
		}
		return loadScenario(ctx, store, b, s, time.Now())
	})
	if err != nil {
		return "", fmt.Errorf("demo: %w", err)
	}
	lead := s.People[0]
	if err := speakInDemo(ctx, store, b, people.Person{
		Login: lead.Login, Name: lead.Name, Role: people.Role(lead.Role),
	}); err != nil {
		return "", fmt.Errorf("demo: %w", err)
	}
	var said strings.Builder
	for _, p := range s.People {
		_, _ = fmt.Fprintf(&said, "  %-8s %-14s sign in as %s, password %s\n", p.Role, p.Name, p.Login, demoPassword)
	}
	return said.String() + "Ctrl-C closes the server and its database; what was entered stays.\n", nil
}

// claimForDemo refuses a database that somebody works with: people with a
// published password have no business in a shop's own record. A load that was
// interrupted goes on.
func claimForDemo(ctx context.Context, store *postgres.Store) error {
	return store.Once(ctx, "demo begun", func() error {
		empty, err := store.IsEmpty(ctx)
		if err == nil && !empty {
			err = errors.New("this database belongs to a workshop; the demo needs one of its own")
		}
		return err
	})
}

func loadScenario(ctx context.Context, store *postgres.Store, b book.Book, s files.Scenario, now time.Time) error {
	staff := map[string]people.Person{}
	for _, p := range s.People {
		person := people.Person{Login: p.Login, Name: p.Name, Role: people.Role(p.Role)}
		staff[p.Login] = person
		if err := store.KeepAccount(ctx, people.Account{Person: person,
			PasswordHash: httpapi.HashPassword(demoPassword)}); err != nil {
			return err
		}
	}
	if err := keepShop(ctx, store, s, staff, now); err != nil {
		return err
	}
	for i, r := range s.Rebuilds {
		if err := loadRebuild(ctx, store, b, r, staff, i, now); err != nil {
			return fmt.Errorf("rebuild %d of the scenario (%s): %w", i+1, r.Vehicle, err)
		}
	}
	return nil
}

// keepShop keeps what the archipelago's workshop says of itself, its fleet and
// its drawers, of which one size is short.
func keepShop(ctx context.Context, store *postgres.Store, s files.Scenario, staff map[string]people.Person,
	now time.Time) error {
	says := shop.Shop{
		Name: "Workshop of the public fleet", Address: "Harbour lane 4, Skerry quay", Units: quantity.Metric,
		Currency: "EUR", HourlyRate: quantity.MoneyOf(58), Zone: store.Zone().String(), Paper: "A4",
		Foot: "Questions to the harbour office, weekdays from seven.",
	}
	lead := staff[s.People[0].Login]
	if err := store.KeepShop(ctx, says, lead, now); err != nil {
		return err
	}
	if err := store.KeepFleet(ctx, fleetOf(s), stockOf(s)); err != nil {
		return err
	}
	least, place := quantity.Count(2), "bench 1, left"
	return store.KeepDrawer(ctx, shop.DrawerName{ID: "thrust-washers"},
		[]shop.DrawerLine{{Size: "0.58 mm", Least: &least, Place: &place}}, "stocktaking", lead, now)
}

func fleetOf(s files.Scenario) []shop.Vehicle {
	var fleet []shop.Vehicle
	for _, v := range s.Fleet {
		vehicle := shop.Vehicle{ID: v.ID, Name: v.Name, Owner: v.Owner}
		for _, u := range v.Units {
			vehicle.Units = append(
				vehicle.Units,
				shop.Unit{ID: u.ID, Kind: u.Kind, Name: u.Name, Serial: u.Serial, Sheet: u.Sheet, Route: u.Route,
					Gears: u.Gears},
			)
		}
		fleet = append(fleet, vehicle)
	}
	return fleet
}

func stockOf(s files.Scenario) []postgres.StockLine {
	var stock []postgres.StockLine
	for _, d := range s.Drawers {
		for i, size := range d.Sizes {
			stock = append(stock, postgres.StockLine{Drawer: d.ID, Thickness: size.Thickness.String(),
				Name: size.Name, Count: size.Count, Place: i})
		}
	}
	return stock
}

// scriptOf reads the entries of a story; a day that something is due is told as
// days from now: "+2".
func scriptOf(r files.ScenarioRebuild, now time.Time) (walk.Script, error) {
	script := walk.Script{}
	for i, e := range r.Entries {
		var d record.Draft
		if err := input.Decode(e.Say, &d); err != nil {
			return nil, fmt.Errorf("entry %d: %w", i+1, err)
		}
		if ordered, is := d.Says.(*acts.Ordered); is {
			if days, ahead := strings.CutPrefix(ordered.Due, "+"); ahead {
				n, err := strconv.Atoi(days)
				if err != nil {
					return nil, fmt.Errorf("entry %d: %q is no number of days", i+1, ordered.Due)
				}
				ordered.Due = now.AddDate(0, 0, n).Format(time.DateOnly)
			}
		}
		script[e.Step] = append(script[e.Step], d)
	}
	return script, nil
}

// worked is the day itself, or the Monday after a weekend: nobody promises a day on
// which the shop is closed.
func worked(day time.Time) time.Time {
	for day.Weekday() == time.Saturday || day.Weekday() == time.Sunday {
		day = day.AddDate(0, 0, 1)
	}
	return day
}

// loadRebuild tells one story: opened days ago, walked along its route entry
// by entry through the same rules as anybody.
func loadRebuild(
	ctx context.Context, store *postgres.Store, b book.Book, r files.ScenarioRebuild, staff map[string]people.Person,
	n int, now time.Time,
) error {
	clock := now.AddDate(0, 0, -r.OpenedDaysAgo).Truncate(24 * time.Hour).Add(time.Duration(7*60+25+n*7) * time.Minute)
	tick := func() time.Time {
		clock = clock.Add(4 * time.Minute)
		if clock.Hour() >= 17 { // work goes on the next morning
			clock = clock.Truncate(24 * time.Hour).Add(31 * time.Hour)
		}
		if clock.After(now) {
			clock = now
		}
		return clock
	}
	lead, mechanic := staff["ilva"], staff[[]string{"odo", "runa"}[n%2]]
	shop := workshop.New(store, b, func() time.Time { return clock })
	order := workshop.Order{
		Vehicle: r.Vehicle, Unit: r.Unit, Complaint: r.Complaint, Odometer: r.Odometer,
		Promised: worked(clock.AddDate(0, 0, r.OpenedDaysAgo+r.PromisedIn)).Format(time.DateOnly),
	}
	opened, _, err := shop.Open(ctx, order, lead, fmt.Sprintf("demo rebuild %d", n))
	if err != nil {
		return err
	}
	ledger, err := store.Ledger(ctx, opened.ID)
	if err != nil {
		return err
	}
	script, err := scriptOf(r, now)
	if err != nil {
		return err
	}
	w := &walk.Walker{
		Ledger: ledger, Clock: tick, Script: script, Spent: 150,
		By: func(step *record.Step) people.Person {
			return map[bool]people.Person{true: lead, false: mechanic}[step.Role == string(people.Lead)]
		},
		Apply: func(step string, _ record.Draft, p record.Proposal) error {
			_, _, err := store.Append(
				ctx, opened.ID, workshop.Write{Key: "demo " + p.Entry.ID},
				func(record.Ledger) (record.Proposal, error) { return p, nil },
			)
			return err
		},
	}
	if _, err := w.WalkUntil(r.Until); err != nil {
		return err
	}
	if r.Until == "" {
		return nil
	}
	return w.Finish(r.Until)
}
