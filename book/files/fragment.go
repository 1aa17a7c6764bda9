package files

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"handwerk/book"
	"handwerk/core/input"
)

// Fragment is a book.Fragment as it is written in a file.
type Fragment struct {
	ID    string            `json:"id"`
	With  map[string]string `json:"with,omitempty"` // words and what they say unless a use sets them
	Steps []book.Step       `json:"steps"`
}

// Use stands in a route where the steps of a fragment go. As renames them;
// whatever else a step may carry is added to a fragment of one step: items,
// after, cautions and materials join its own, the rest takes their place. A
// fragment of several steps takes only after, at each step without a gate.
type Use struct {
	Use  string            `json:"use"`
	As   string            `json:"as,omitempty"`
	With map[string]string `json:"with,omitempty"`
}

// fragmentFile is a fragment as loaded: loose data, checked where it is used.
type fragmentFile struct {
	file
	book.Fragment
	at string // path within the file
}

// origin tells where an expanded step was written: in a route, or in a
// fragment with some keys from its use.
type origin struct {
	route    string // path of the step in the route's file
	fragment *fragmentFile
	step     int
	keys     map[string]bool // set by the use
	own      map[string]int  // of joined lists: how many are the fragment's
	usedBy   string
}

// expansion is a route's file with its fragments put in.
type expansion struct {
	file
	origins map[string]origin // "stations[0].steps[3]"
	used    map[string]bool   // fragments
}

// readFragments takes the fragments of a file: a list under "fragments".
func readFragments(f file, problems *Problems) map[string]*fragmentFile {
	found := map[string]*fragmentFile{}
	loose, ok := readLoose(f, problems)
	if !ok {
		return found
	}
	root, _ := loose.(map[string]any)
	list, ok := root["fragments"].([]any)
	if !ok || len(root) != 1 {
		problems.add(f, input.At("", "fragments: a list", "a file of fragments holds nothing else"))
		return found
	}
	for i, item := range list {
		at := input.Index("fragments", i)
		var head struct {
			ID    string            `json:"id"`
			With  map[string]string `json:"with,omitempty"`
			Steps []map[string]any  `json:"steps"`
		}
		if err := input.DecodeTree(item, &head); err != nil {
			problems.add(f, input.Below(at, err))
			continue
		}
		if len(head.Steps) == 0 || found[head.ID] != nil {
			problems.add(f, input.At(at, "an id of its own and at least one step",
				"%q has no steps, or is there twice", head.ID))
			continue
		}
		found[head.ID] = &fragmentFile{f, book.Fragment{ID: head.ID, With: head.With, Steps: head.Steps}, at}
	}
	return found
}

// expand puts fragments into the loose data of a route.
func expand(f file, route map[string]any, fragments map[string]*fragmentFile, problems *Problems) expansion {
	x := expansion{f, map[string]origin{}, map[string]bool{}}
	stations, _ := route["stations"].([]any)
	for i, s := range stations {
		station, ok := s.(map[string]any)
		if !ok {
			continue
		}
		steps, ok := station["steps"].([]any)
		if !ok {
			continue
		}
		var out []any
		base := input.Join(input.Index("stations", i), "steps")
		for j, step := range steps {
			at := input.Index(base, j)
			more, origins := x.expandStep(at, step, fragments, problems)
			for k, o := range origins {
				x.origins[input.Index(base, len(out)+k)] = o
			}
			out = append(out, more...)
		}
		station["steps"] = out
	}
	return x
}

// expandStep gives the steps that one line of a route stands for.
func (x expansion) expandStep(at string, step any, fragments map[string]*fragmentFile, problems *Problems) ([]any,
	[]origin) {
	f := x.file
	given, ok := step.(map[string]any)
	if !ok || given["use"] == nil {
		return []any{step}, []origin{{route: at}}
	}
	given = maps.Clone(given)
	use, with, as, err := takeUse(given)
	if err != nil {
		problems.add(f, input.Below(at, err))
		return nil, nil
	}
	fragment, ok := fragments[use]
	if !ok {
		problems.add(f, input.At(input.Join(at, "use"), strings.Join(slices.Sorted(maps.Keys(fragments)), ", "),
			"there is no fragment %q", use))
		return nil, nil
	}
	x.used[use] = true
	for k := range with {
		if _, ok := fragment.With[k]; !ok {
			problems.add(
				f,
				input.At(
					input.Join(at, "with."+k), strings.Join(slices.Sorted(maps.Keys(fragment.With)), ", "),
					"fragment %q has no word {%s}", use, k,
				),
			)
		}
	}
	return fragment.build(f, at, given, with, as, problems)
}

func takeUse(given map[string]any) (use string, with map[string]string, as string, err error) {
	var u Use
	part := map[string]any{}
	for _, k := range []string{"use", "as", "with"} {
		if v, ok := given[k]; ok {
			part[k] = v
		}
		delete(given, k)
	}
	err = input.DecodeTree(part, &u)
	return u.Use, u.With, u.As, err
}

// joined are the lists to which a use adds.
var joined = []string{"items", "after", "cautions", "materials"}

func (fr *fragmentFile) build(f file, at string, given map[string]any, with map[string]string, as string,
	problems *Problems) ([]any, []origin) {
	var steps []any
	var origins []origin
	loose, unset := fr.Put(as, with)
	for i, w := range unset {
		problems.add(fr.file, input.At(fr.path(i), "a word that with names", "{%s} is set by nobody", w))
	}
	for i, step := range loose {
		o := origin{route: at, fragment: fr, step: i, keys: map[string]bool{}, own: map[string]int{}, usedBy: f.name}
		if len(loose) == 1 {
			merge(step, given, &o)
		} else if after, ok := given["after"]; ok && step["after"] == nil {
			step["after"] = after
			o.keys["after"] = true
		}
		steps, origins = append(steps, step), append(origins, o)
	}
	if len(loose) > 1 {
		for k := range given {
			if k != "after" {
				problems.add(f, input.At(input.Join(at, k), "use, as, with, after",
					"a fragment of several steps takes no %q", k))
			}
		}
	}
	return steps, origins
}

func merge(step, given map[string]any, o *origin) {
	for k, v := range given {
		own, isList := step[k].([]any)
		more, both := v.([]any)
		if slices.Contains(joined, k) && isList && both {
			step[k] = append(slices.Clone(own), more...)
			o.own[k] = len(own)
			continue
		}
		if mine, theirs := asMap(step[k]), asMap(v); slices.Contains(laidOver, k) && mine != nil && theirs != nil {
			v = maps.Clone(mine)
			maps.Copy(v.(map[string]any), theirs)
		}
		step[k] = v
		o.keys[k] = true
	}
}

// laidOver are the maps to which a use adds, and in which it says otherwise.
var laidOver = []string{"wants", "leaves"}

func asMap(v any) map[string]any { m, _ := v.(map[string]any); return m }

func (fr *fragmentFile) path(step int) string {
	return input.Index(input.Join(fr.at, "steps"), step)
}

var stepPath = regexp.MustCompile(`^stations\[\d+\]\.steps\[\d+\]`)

// add keeps faults of an expanded route at the place where they were written.
func (x expansion) add(problems *Problems, faults input.Fields) {
	for _, f := range faults {
		head := stepPath.FindString(f.Path)
		o, ok := x.origins[head]
		if !ok {
			problems.add(x.file, input.Fields{f})
			continue
		}
		rest := strings.TrimPrefix(f.Path[len(head):], ".")
		key, index := splitKey(rest)
		own, isJoined := o.own[key]
		switch {
		case o.fragment == nil, o.keys[key]:
			f.Path = input.Join(o.route, rest)
			problems.add(x.file, input.Fields{f})
		case isJoined && index >= own:
			f.Path = input.Join(o.route, strings.Replace(rest, fmt.Sprintf("[%d]", index),
				fmt.Sprintf("[%d]", index-own), 1))
			problems.add(x.file, input.Fields{f})
		default:
			f.Path = input.Join(o.fragment.path(o.step), rest)
			f.Problem += " (used by " + o.usedBy + ")"
			problems.add(o.fragment.file, input.Fields{f})
		}
	}
}

// splitKey reads "items[3].text" as items, 3.
func splitKey(path string) (string, int) {
	key, _, _ := strings.Cut(path, ".")
	name, n, ok := strings.Cut(key, "[")
	if !ok {
		return key, -1
	}
	index, err := strconv.Atoi(strings.TrimSuffix(n, "]"))
	if err != nil {
		return name, -1
	}
	return name, index
}
