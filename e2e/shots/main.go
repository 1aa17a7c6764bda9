// Command shots renews the pictures of the main views from a fresh demo.
package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"handwerk/e2e"
)

// view is one picture: a unit of the demo, by its serial, and a step of its
// rebuild, or a path.
type view struct {
	name          string
	serial, path  string
	width, height int
	types         [2]string // into which field, what
}

var none [2]string

var views = []view{
	{"board", "", "/", 1280, 800, none},
	{"open", "", "/open", 1280, 800, [2]string{"Customer", "slip"}},
	{"sheet", "", "/sheets/brakka-a9", 1280, 800, none},
	{"unit", "", "/units/observatory-truck.tc", 1280, 800, none},
	{"measure", "HV-20931", "/end-float", 1280, 800, none},
	{"every-gear", "G5-0009", "/shift-before", 1280, 800, none},
	{"driveline", "A9-0730", "/which-turned", 1280, 800, none},
	{"torque", "HV-00077", "/cover-bolts", 1280, 800, none},
	{"take-apart", "A9S-118", "/strip", 1280, 800, none},
	{"inspect", "G5-0148", "/parts", 1280, 800, none},
	{"parts", "G5-0148", "/parts-here", 1280, 800, none},
	{"costs", "G5-0148", "costs", 1280, 800, none},
	{"diagnosis", "C228-0730", "/tests", 1280, 800, none},
	{"backlash", "A9-0730", "/backlash", 1280, 800, none},
	{"housing", "G5-0009", "/housing", 1280, 800, none},
	{"root-cause", "G5-0148", "/cause", 820, 1180, none},
	{"ways", "G5-0148", "/way", 820, 1180, none},
	{"drive-card", "BT2-0301", "/drive-after", 1280, 800, none},
	{"record", "BT2-0188", "record", 1280, 800, none},
}

func main() {
	if err := shoot(os.Args[1]); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func shoot(into string) error {
	program, _, end, err := e2e.Fresh("shots")
	if err != nil {
		return err
	}
	defer func() { _ = end() }()
	browser, err := e2e.OpenBrowser()
	if err != nil {
		return err
	}
	defer browser.MustClose()
	visitor := browser.Visit(program.Base)
	visitor.SignIn("ilva")
	for _, v := range views {
		visitor.Go(pathOf(visitor, v))
		if v.types != none {
			visitor.Type(v.types[0], v.types[1])
			visitor.Offered()
		}
		if err := save(visitor, into, v); err != nil {
			return err
		}
	}
	return nil
}

func pathOf(p *e2e.Person, v view) string {
	if v.serial == "" {
		return v.path
	}
	id := p.MustEval(`async (serial, closed) => {
		const board = await (await fetch('/api/v1/board?closed=' + closed)).json();
		return board.rebuilds.find(r => r.unit.serial === serial).id;
	}`, v.serial, v.path == "record").String()
	switch v.path {
	case "record":
		return "/records/" + id
	case "costs":
		return "/costs/" + id
	}
	return "/rebuilds/" + id + "/" + strings.TrimPrefix(v.path, "/")
}

func save(p *e2e.Person, into string, v view) error {
	raw, err := p.Picture(v.width, v.height)
	if err != nil {
		return err
	}
	return os.WriteFile(filepath.Join(into, v.name+".png"), raw, 0o644)
}
