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
}

var views = []view{
	{"board", "", "/", 1280, 800},
	{"open", "", "/open", 1280, 800},
	{"account", "", "/account", 1280, 800},
	{"measure", "HV-20931", "/end-float", 1280, 800},
	{"measure-upright", "HV-20931", "/end-float", 820, 1180},
	{"undecided", "HV-31114", "/end-float", 1280, 800},
	{"torque", "HV-00077", "/cover-bolts", 1280, 800},
	{"take-apart", "HV-20931", "/strip", 1280, 800},
	{"inspect", "HV-20931", "/parts", 1280, 800},
	{"diagnosis", "C228-0730", "/tests", 1280, 800},
	{"backlash", "A9-0730", "/backlash", 1280, 800},
	{"housing", "G5-0009", "/housing", 1280, 800},
	{"housing-upright", "G5-0009", "/housing", 820, 1180},
	{"caution", "BT2-0188", "/tests", 1280, 800},
	{"sealant", "HV-00077", "/sealant", 1280, 800},
	{"fluid", "BT2-0188", "/fluid", 1280, 800},
	{"drive-card", "BT2-0301", "/drive-after", 1280, 800},
	{"record", "BT2-0188", "record", 1280, 800},
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
	if err := save(visitor, into, view{name: "sign-in", width: 1280, height: 800}); err != nil {
		return err
	}
	visitor.SignIn("ilva")
	for _, v := range views {
		visitor.Go(pathOf(visitor, v))
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
	if v.path == "record" {
		return "/records/" + id
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
