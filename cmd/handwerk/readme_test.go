package main

import (
	"bytes"
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"handwerk/book/demo"
)

// Every command of the README is what a newcomer types first: each is run as it
// stands there, on the demo's data.
func TestTheREADMEsCommandsDoWhatTheySay(t *testing.T) {
	c := newCommand(t)
	c.demoLoaded()
	t.Setenv("HANDWERK_ADDR", "127.0.0.1:0")
	lines := readmeCommands(t)
	require.Greater(t, len(lines), 10)
	dir := filepath.Join(t.TempDir(), "book")
	for _, line := range lines {
		t.Run(line, func(t *testing.T) {
			stand := map[string]string{
				"DIR": dir, "record.json": filepath.Join(t.TempDir(), "record.json"),
				"26-001": time.Now().Format("06") + "-001",
			}
			switch {
			case strings.Contains(line, "backup"):
				stand["FILE"] = filepath.Join(t.TempDir(), "handwerk.backup")
			case strings.Contains(line, "--checkpoint"):
				stand["FILE"] = c.checkpoint()
			case strings.Contains(line, "book export"):
				dir = filepath.Join(t.TempDir(), "mine")
				stand["DIR"] = dir
			default:
				require.NoError(t, os.CopyFS(dir, demo.Files))
				defer func() { require.NoError(t, os.RemoveAll(dir)) }()
			}
			said := c.typed(t, line, stand)
			assert.NotEmpty(t, said, "it says what it did")
		})
	}
}

// typed runs a line, what one command says going into the next.
func (c command) typed(t *testing.T, line string, stand map[string]string) (said string) {
	t.Helper()
	if strings.Contains(line, "account") {
		said = "a long password nobody guesses"
	}
	for _, part := range strings.Split(line, " | ") {
		var args []string
		for _, word := range words.FindAllString(part, -1) {
			word = strings.Trim(word, `"`)
			if is, ok := stand[word]; ok {
				word = is
			}
			args = append(args, word)
		}
		require.Equal(t, "handwerk", args[0])
		if args[1] == "serve" {
			return c.served(t, args[1:])
		}
		out, err := c.run(said, args[1:]...)
		require.NoError(t, err, out)
		said = out
	}
	return said
}

var words = regexp.MustCompile(`"[^"]*"|\S+`)

// served runs the server until it says that it is open.
func (c command) served(t *testing.T, args []string) string {
	t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), time.Minute)
	defer cancel()
	out := &opening{opened: cancel}
	cmd := root()
	cmd.SetOut(out)
	cmd.SetErr(out)
	cmd.SetArgs(args)
	require.NoError(t, cmd.ExecuteContext(ctx))
	require.Contains(t, out.String(), "is open at")
	return out.String()
}

// opening is an output that is told when the workshop is open.
type opening struct {
	mu     sync.Mutex
	said   bytes.Buffer
	opened func()
}

func (o *opening) Write(p []byte) (int, error) {
	o.mu.Lock()
	defer o.mu.Unlock()
	n, err := o.said.Write(p)
	if bytes.Contains(o.said.Bytes(), []byte("is open at")) {
		o.opened()
	}
	return n, err
}

func (o *opening) String() string {
	o.mu.Lock()
	defer o.mu.Unlock()
	return o.said.String()
}

// readmeCommands are the lines of the README that begin with the program's name.
func readmeCommands(t *testing.T) (lines []string) {
	t.Helper()
	raw, err := os.ReadFile("../../README.md")
	require.NoError(t, err)
	for line := range strings.Lines(string(raw)) {
		if strings.HasPrefix(line, "handwerk ") {
			line, _, _ = strings.Cut(line, " #")
			lines = append(lines, strings.TrimSpace(line))
		}
	}
	return lines
}

var makes = regexp.MustCompile("(?m)(?:^|`)make ([a-z-]+)")

// What the README makes, the Makefile makes.
func TestTheREADMEsTargetsAreThere(t *testing.T) {
	raw, err := os.ReadFile("../../README.md")
	require.NoError(t, err)
	found := makes.FindAllStringSubmatch(string(raw), -1)
	require.NotEmpty(t, found)
	for _, m := range found {
		run := exec.Command("make", "-n", m[1])
		run.Dir = "../.."
		out, err := run.CombinedOutput()
		assert.NoError(t, err, "%s: %s", m[0], out)
	}
}
