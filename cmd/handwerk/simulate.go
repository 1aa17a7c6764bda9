package main

import (
	"context"
	"fmt"
	"net"
	"strings"
	"time"

	"github.com/spf13/cobra"

	"handwerk/book"
	"handwerk/core/input"
	"handwerk/core/quantity"
	"handwerk/postgres"
	"handwerk/simulator"
	"handwerk/workshop/people"
	"handwerk/workshop/shop"
)

func simulateCommand() *cobra.Command {
	var addr string
	var seed uint64
	kinds := simulator.Kinds()
	names := make([]string, len(kinds))
	cmd := &cobra.Command{
		Use: "simulate NAME", Short: "Stand in for a gauge that speaks over the network", Args: cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			for _, k := range kinds {
				if k.Name != args[0] {
					continue
				}
				at, err := listenAt(cmd.Context(), addr)
				if err != nil {
					return err
				}
				_, _ = fmt.Fprintf(
					cmd.OutOrStdout(),
					"%s speaks at %s: %s. Ctrl-C ends it.\n",
					k.Name,
					at.Addr(),
					k.Says,
				)
				return simulator.Serve(cmd.Context(), at, k, seed)
			}
			return input.At("NAME", strings.Join(names, ", "), "there is no stand-in %q", args[0])
		},
	}
	cmd.Long = cmd.Short + ".\n\n"
	for i, k := range kinds {
		names[i] = k.Name
		cmd.Long += fmt.Sprintf("  %-8s %s\n", k.Name, k.Says)
	}
	cmd.Flags().StringVar(&addr, "listen", "", "address to speak at; without it 127.0.0.1:7410, or any free one")
	cmd.Flags().Uint64Var(&seed, "seed", 1, "which truth it hides")
	return cmd
}

// demoPort is where the first stand-in of the demo speaks; the others follow.
const demoPort = 7410

// speakInDemo starts the stand-ins, and says of the demo's gauges where they speak.
func speakInDemo(ctx context.Context, store *postgres.Store, b book.Book, lead people.Person) error {
	own, err := store.Gauges(ctx)
	if err != nil {
		return err
	}
	gauges := shop.LayOver(own, b.Instruments)
	for i, k := range simulator.Kinds() {
		at, err := listenNear(ctx, demoPort+i)
		if err != nil {
			return err
		}
		go func() { _ = simulator.Serve(ctx, at, k, uint64(i)+1) }() // ends with ctx
		g := standsFor(gauges, k)
		if g.Address == at.Addr().String() {
			continue
		}
		g.Address = at.Addr().String()
		if err := store.KeepGauge(ctx, g, lead, time.Now().UTC().Truncate(time.Microsecond)); err != nil {
			return err
		}
	}
	return nil
}

// listenAt takes the address that was said, or one nearby where none was: the demo may
// have taken the usual one.
func listenAt(ctx context.Context, addr string) (net.Listener, error) {
	if addr == "" {
		return listenNear(ctx, demoPort)
	}
	var config net.ListenConfig
	return config.Listen(ctx, "tcp", addr)
}

// listenNear takes a port of the loopback, or any where another program has it.
func listenNear(ctx context.Context, port int) (net.Listener, error) {
	var config net.ListenConfig
	at, err := config.Listen(ctx, "tcp", fmt.Sprintf("127.0.0.1:%d", port))
	if err != nil {
		return config.Listen(ctx, "tcp", "127.0.0.1:0")
	}
	return at, nil
}

// standsFor is the first gauge of the kind that a stand-in plays, or a new one.
func standsFor(gauges []shop.Gauge, k simulator.Kind) shop.Gauge {
	for _, g := range gauges {
		if g.Kind == k.Gauge && !g.Ended {
			return g
		}
	}
	name := strings.ToUpper(k.Gauge[:1]) + k.Gauge[1:]
	g := shop.Gauge{Instrument: book.Instrument{ID: "speaking-" + k.Name, Kind: k.Gauge, Name: name + " no. 1"}}
	g.Resolution = quantity.Say(quantity.Magnitude(0.1), quantity.Named(map[string]string{
		"torque wrench": "N·m", "spring scale": "N",
	}[k.Gauge])).Any
	return g
}
