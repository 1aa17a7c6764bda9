package main

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"os"
	"regexp"
	"strings"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"handwerk/core/text"
	"handwerk/httpapi"
	"handwerk/workshop/people"
)

var loginShape = regexp.MustCompile(`^[a-z0-9][a-z0-9._-]{0,59}$`)

// accountFlags are what is to be changed; only what is named is.
type accountFlags struct {
	name, role             string
	password, shut, reopen bool
}

func accountCommand() *cobra.Command {
	var f accountFlags
	cmd := withDatabase(
		"account LOGIN",
		"Add a person, or change name, role or password (password on standard input); close an account",
		cobra.ExactArgs(1),
		func(cmd *cobra.Command, c config, d *database, args []string) error {
			return changeAccount(cmd, c, d, strings.ToLower(strings.TrimSpace(args[0])), f)
		},
	)
	cmd.Flags().StringVar(&f.name, "name", "", "name as it appears in the record")
	cmd.Flags().
		StringVar(&f.role, "role", "", "reader, mechanic or lead; a mechanic if left out for a new person")
	cmd.Flags().BoolVar(&f.password, "password", false, "ask for a new password at the keyboard")
	cmd.Flags().
		BoolVar(&f.shut, "close", false, "close the account: its person cannot sign in any more; the record goes on naming him")
	cmd.Flags().BoolVar(&f.reopen, "reopen", false, "open a closed account again")
	return cmd
}

func changeAccount(cmd *cobra.Command, c config, d *database, login string, f accountFlags) error {
	if !loginShape.MatchString(login) {
		return fmt.Errorf(
			"%q is no name to sign in with; accepted: small letters, figures, dots and dashes, up to 60", login,
		)
	}
	before, known, err := d.Account(cmd.Context(), login)
	if err != nil {
		return err
	}
	if f.shut {
		return closeAccount(cmd, c, d, login, known, f)
	}
	if known && before.ClosedAt != nil && !f.reopen {
		return fmt.Errorf("%s is closed; open it again with --reopen", login)
	}
	after := before
	after.Login = login
	if err := f.apply(&after, known); err != nil {
		return err
	}
	changed, err := f.passwordOf(cmd, &after, known)
	if err != nil {
		return err
	}
	if err := d.KeepAccount(cmd.Context(), after); err != nil {
		return err
	}
	if known && changed {
		if err := d.EndSessions(cmd.Context(), login, ""); err != nil {
			return err
		}
	}
	return sayAccount(cmd, c, before, after, known, changed)
}

// passwordOf reads a new password, when one is said, and judges it; a new
// person needs one.
func (f accountFlags) passwordOf(cmd *cobra.Command, a *people.Account, known bool) (changed bool, err error) {
	password, err := readPassword(cmd, f.password || !known)
	switch {
	case err != nil:
		return false, err
	case password == "" && !known:
		return false, errors.New("a new person needs a password on standard input")
	case password == "":
		return false, nil
	}
	if err := httpapi.JudgePassword(password, a.Login, a.Name); err != nil {
		return false, err
	}
	a.PasswordHash = httpapi.HashPassword(password)
	return true, nil
}

// apply puts what was named into the account.
func (f accountFlags) apply(a *people.Account, known bool) error {
	if f.role != "" {
		a.Role = people.Role(f.role)
	} else if !known {
		a.Role = people.Mechanic
	}
	if a.Role != people.Reader && a.Role != people.Mechanic && a.Role != people.Lead {
		return fmt.Errorf("--role: %q is not a role; accepted: reader, mechanic, lead", f.role)
	}
	if f.name != "" {
		a.Name = strings.TrimSpace(f.name)
	}
	if a.Name == "" {
		return errors.New("--name: missing; the name as it will stand in the record")
	}
	if problem := text.Bad(a.Name); problem != "" || text.Length(a.Name) > 100 {
		return fmt.Errorf("--name: %s; accepted: up to 100 letters and signs", strings.TrimSpace(problem+" too long"))
	}
	return nil
}

// readPassword reads one from standard input; at a keyboard only when asked to.
func readPassword(cmd *cobra.Command, ask bool) (string, error) {
	if f, ok := cmd.InOrStdin().(*os.File); ok && term.IsTerminal(int(f.Fd())) {
		if !ask {
			return "", nil
		}
		_, _ = fmt.Fprint(cmd.ErrOrStderr(), "Password: ")
		raw, err := term.ReadPassword(int(f.Fd()))
		_, _ = fmt.Fprintln(cmd.ErrOrStderr())
		return string(raw), err
	}
	password, err := bufio.NewReader(io.LimitReader(cmd.InOrStdin(), 4096)).ReadString('\n')
	if err != nil && !errors.Is(err, io.EOF) {
		return "", err
	}
	return strings.TrimRight(password, "\r\n"), nil
}

func closeAccount(cmd *cobra.Command, c config, d *database, login string, known bool, f accountFlags) error {
	if !known {
		return fmt.Errorf("there is no %s", login)
	}
	if f.name != "" || f.role != "" || f.password || f.reopen {
		return errors.New("--close stands alone")
	}
	if err := d.CloseAccount(cmd.Context(), login, time.Now()); err != nil {
		return err
	}
	c.logger().Warn("security", "event", "account closed", "login", login)
	_, err := fmt.Fprintf(
		cmd.OutOrStdout(), "%s is closed and signed out everywhere. The record goes on naming the person.\n", login,
	)
	return err
}

// sayAccount tells what was changed, and the log with it.
func sayAccount(cmd *cobra.Command, c config, before, after people.Account, known, password bool) error {
	log := c.logger()
	var said []string
	if !known {
		said = append(said, "new, "+after.Name+", "+string(after.Role))
		log.Warn("security", "event", "account added", "login", after.Login, "role", string(after.Role))
	} else {
		if before.Name != after.Name {
			said = append(said, "name "+after.Name)
		}
		if before.Role != after.Role {
			said = append(said, "role "+string(after.Role)+", was "+string(before.Role))
			log.Warn("security", "event", "role changed", "login", after.Login, "role", string(after.Role), "was",
				string(before.Role))
		}
		if password {
			said = append(said, "new password, signed out everywhere")
			log.Warn("security", "event", "password changed", "login", after.Login)
		}
		if before.ClosedAt != nil {
			said = append(said, "open again")
			log.Warn("security", "event", "account opened again", "login", after.Login)
		}
	}
	if len(said) == 0 {
		said = []string{"nothing was changed; it is " + after.Name + ", " + string(after.Role)}
	}
	_, err := fmt.Fprintf(cmd.OutOrStdout(), "%s: %s.\n", after.Login, strings.Join(said, "; "))
	return err
}
