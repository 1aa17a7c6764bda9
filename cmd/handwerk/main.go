// Command handwerk is the whole program: the server, the demo, the
// calculators and the care of the record.
package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"runtime/debug"
	"syscall"

	"github.com/spf13/cobra"
)

func main() {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	signal.Ignore(syscall.SIGPIPE) // a closed pipe is an error to be told, not a death
	out := &telling{to: os.Stdout}
	cmd := root()
	cmd.SetOut(out)
	cmd.SetErr(os.Stderr)
	err := cmd.ExecuteContext(ctx)
	if err == nil && out.err != nil {
		err = fmt.Errorf("the output was not written whole: %w", out.err)
	}
	if err != nil {
		if !errors.Is(err, errSaid) {
			fmt.Fprintln(os.Stderr, err)
		}
		stop()
		os.Exit(1)
	}
}

// telling remembers that something could not be written, so that no command
// ends well whose output went nowhere.
type telling struct {
	to  io.Writer
	err error
}

func (t *telling) Write(p []byte) (int, error) {
	n, err := t.to.Write(p)
	if t.err == nil {
		t.err = err
	}
	return n, err
}

// errSaid ends the program with status 1 after everything was printed.
var errSaid = errors.New("printed already")

func root() *cobra.Command {
	cmd := &cobra.Command{
		Use: "handwerk", Short: "The record and the benches of a drivetrain workshop",
		SilenceUsage: true, SilenceErrors: true, Version: programVersion(),
	}
	cmd.Long = cmd.Short + ".\n\nThe environment says where and how:\n" + variables()
	cmd.AddCommand(serveCommand(), demoCommand(), calcCommand(), migrateCommand(), verifyCommand(), backupCommand(),
		restoreCommand(),
		exportCommand(), importCommand(), accountCommand(), keyCommand(), bookCommand(), generateCommand(),
		simulateCommand(),
		openapiCommand())
	return cmd
}

// programVersion is what the build knows of itself.
func programVersion() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return "unknown"
	}
	version, said := info.Main.Version, map[string]string{}
	for _, s := range info.Settings {
		said[s.Key] = s.Value
	}
	if r := said["vcs.revision"]; len(r) >= 12 {
		version += " " + r[:12]
	}
	return version + " " + info.GoVersion
}
