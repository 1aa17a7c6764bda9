// Words judges every text that people read: the book's, the front end's as web/texts.mjs
// lists them on standard input, and the sentences in Go. It ends with 1 when one
// breaks a rule. An exception is said beside its text, as "words: why", at most 40 in all.
package main

import (
	"bufio"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
)

// text is one that somebody reads, and where it is written.
type text struct {
	file string
	line int
	kind kind
	says string
}

type kind string

const (
	title       kind = "title"
	instruction kind = "instruction"
	button      kind = "button"
	other       kind = "text"
)

// mostExceptions bounds how often a rule may be broken with a reason.
const mostExceptions = 40

func main() {
	texts, err := all()
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	faults, excepted := judge(texts)
	for _, f := range faults {
		fmt.Println(f)
	}
	if excepted > mostExceptions {
		fmt.Printf("%d exceptions: at most %d\n", excepted, mostExceptions)
	}
	if len(faults) > 0 || excepted > mostExceptions {
		os.Exit(1)
	}
}

func all() ([]text, error) {
	texts, err := listed(bufio.NewScanner(os.Stdin))
	if err != nil {
		return nil, err
	}
	for _, root := range []string{"book", "core", "workshop", "httpapi", "report", "picture", "postgres", "cmd"} {
		err = filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			var found []text
			switch {
			case strings.HasPrefix(path, "book/shop/") && strings.HasSuffix(path, ".yaml"):
				found, err = inBook(path)
			case strings.HasSuffix(path, ".go") && !strings.HasSuffix(path, "_test.go"):
				found, err = inGo(path)
			}
			texts = append(texts, found...)
			return err
		})
		if err != nil {
			return nil, err
		}
	}
	return texts, nil
}

// listed reads the front end's texts: place, line, kind and text, with tabs between.
func listed(lines *bufio.Scanner) ([]text, error) {
	texts := []text{}
	for lines.Scan() {
		cells := strings.SplitN(lines.Text(), "\t", 4)
		if len(cells) != 4 {
			return nil, fmt.Errorf("%q is not place, line, kind and text", lines.Text())
		}
		line, err := strconv.Atoi(cells[1])
		if err != nil {
			return nil, err
		}
		texts = append(texts, text{cells[0], line, kind(cells[2]), cells[3]})
	}
	return texts, lines.Err()
}

// judge gives what is wrong, and how many faults are excepted with a reason.
func judge(texts []text) (faults []string, excepted int) {
	sources := map[string][]string{}
	for _, t := range texts {
		for _, rule := range rules {
			why := rule.broken(t)
			switch {
			case why == "":
			case isExcepted(sources, t):
				excepted++
			default:
				faults = append(faults, fmt.Sprintf("%s:%d: %s: %q", t.file, t.line, why, t.says))
			}
		}
	}
	return faults, excepted
}

// exception is a comment that says why.
var exception = regexp.MustCompile(`(//|#|\{/\*) ?words: \S`)

// isExcepted tells whether a reason stands on the text's line or the one before.
func isExcepted(sources map[string][]string, t text) bool {
	lines, known := sources[t.file]
	if !known {
		raw, err := os.ReadFile(t.file)
		if err != nil {
			return false
		}
		lines = strings.Split(string(raw), "\n")
		sources[t.file] = lines
	}
	for at := t.line - 1; at >= max(0, t.line-2); at-- {
		if at < len(lines) && exception.MatchString(lines[at]) {
			return true
		}
	}
	return false
}
