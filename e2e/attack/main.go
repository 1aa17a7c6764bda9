// Command attack runs the built program against what a hostile week would do
// to it, and prints what it withstood: the page "Under attack and under load"
// of docs/benchmarks.md. Everything is bounded and on loopback.
package main

import (
	"errors"
	"flag"
	"fmt"
	"os"
	"strings"
	"time"

	"handwerk/e2e"
)

func main() {
	storm := flag.Duration("storm", 30*time.Second, "how long the bombs fall")
	only := flag.String("only", "", "the one part to run, by the beginning of its title")
	flag.Parse()
	if err := run(*storm, *only); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(storm time.Duration, only string) (err error) {
	p, bin, end, err := e2e.Fresh("attack")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, end()) }()
	a := &attack{Program: p, bin: bin}
	for _, part := range []struct {
		title string
		run   func() error
	}{
		{"Bombs: packed bodies, announced bodies, pictures", func() error { return a.bombs(storm) }},
		{"Pictures of 6300 by 6300 in 16 bit", a.pictures},
		{"Guesses", a.guesses},
		{"An insider's guesses", a.insider},
		{"A drawer counted while packs are fitted", a.counting},
		{"One busy rebuild", a.writers},
		{"The database frozen", a.frozen},
		{"Kills", a.kills},
		{"Tampering", a.tampering},
		{"The log stopped", a.logStops},
		{"An archive of 300 pictures", a.archive},
	} {
		if !strings.HasPrefix(part.title, only) {
			continue
		}
		fmt.Printf("\n%s\n", part.title)
		if err := part.run(); err != nil {
			return fmt.Errorf("%s: %w", part.title, err)
		}
	}
	if a.failed > 0 {
		return fmt.Errorf("%d of the figures do not hold", a.failed)
	}
	return nil
}

// attack is a running program and those who are signed in to it.
type attack struct {
	*e2e.Program
	bin    string
	failed int
}

// must prints a figure with what it has to be.
func (a *attack) must(what string, holds bool, figure, bound string) {
	word := "holds"
	if !holds {
		word = "FAILS"
		a.failed++
	}
	fmt.Printf("  %-62s %14s   must be %-16s %s\n", what, figure, bound, word)
}
