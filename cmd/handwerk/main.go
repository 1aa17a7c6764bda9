// Command handwerk is the whole program: the server, the demo, the
// calculators and the care of the record.
package main

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/signal"
	"syscall"

	"github.com/spf13/cobra"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if err := root().ExecuteContext(ctx); err != nil {
		if !errors.Is(err, errSaid) {
			fmt.Fprintln(os.Stderr, err)
		}
		os.Exit(1)
	}
}

// errSaid ends the program with status 1 after everything was printed.
var errSaid = errors.New("said already")

func root() *cobra.Command {
	cmd := &cobra.Command{
		Use: "handwerk", Short: "The record and the benches of a drivetrain workshop",
		SilenceUsage: true, SilenceErrors: true,
	}
	cmd.AddCommand(serveCommand(), demoCommand(), calcCommand(), migrateCommand(), verifyCommand(),
		exportCommand(), importCommand(), accountCommand(), bookCommand(), generateCommand(), openapiCommand())
	return cmd
}
