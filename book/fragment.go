package book

import (
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"

	"handwerk/core/input"
)

// Fragment is a piece of route that several routes use: one step or a few,
// with {words} that a use may set.
type Fragment struct {
	ID string
	// With are its words and what they say unless a use sets them.
	With map[string]string
	// Steps are loose, as they are written; they are read where they are used.
	Steps []map[string]any
}

// Put gives the fragment's steps for one place: renamed, its words set. A word
// that nobody sets is named, by the step it stands in.
func (fr Fragment) Put(as string, with map[string]string) (steps []map[string]any, unset map[int]string) {
	words := maps.Clone(fr.With)
	if words == nil {
		words = map[string]string{}
	}
	maps.Copy(words, with)
	names := fr.names(as)
	unset = map[int]string{}
	for i, loose := range fr.Steps {
		step, _ := reword(loose, words).(map[string]any)
		eachWord(step, func(w string) { unset[i] = w })
		rename(step, names)
		steps = append(steps, step)
	}
	return steps, unset
}

// names maps the fragment's own step ids to those in the route.
func (fr Fragment) names(as string) map[string]string {
	names := map[string]string{}
	for _, s := range fr.Steps {
		id, _ := s["id"].(string)
		switch {
		case as == "":
			names[id] = id
		case len(fr.Steps) == 1:
			names[id] = as
		default:
			names[id] = as + "-" + id
		}
	}
	return names
}

// rename sets a step's id, and the gates and sources that name its siblings.
func rename(step map[string]any, names map[string]string) {
	if id, ok := step["id"].(string); ok {
		step["id"] = names[id]
	}
	for _, key := range []string{"after", "of", "beside"} {
		switch v := step[key].(type) {
		case string:
			if n, ok := names[v]; ok {
				step[key] = n
			}
		case []any:
			for i, x := range v {
				if s, ok := x.(string); ok && names[s] != "" {
					v[i] = names[s]
				}
			}
		}
	}
}

var word = regexp.MustCompile(`\{([a-z][a-z-]*)\}`)

// reword copies loose data with its {words} set; words nobody sets stay, for
// eachWord to find.
func reword(v any, words map[string]string) any {
	switch v := v.(type) {
	case string:
		return word.ReplaceAllStringFunc(v, func(w string) string {
			if said, ok := words[w[1:len(w)-1]]; ok {
				return said
			}
			return w
		})
	case []any:
		out := make([]any, len(v))
		for i, x := range v {
			out[i] = reword(x, words)
		}
		return out
	case map[string]any:
		out := map[string]any{}
		for k, x := range v {
			out[k] = reword(x, words)
		}
		return out
	}
	return v
}

func eachWord(v any, visit func(string)) {
	switch v := v.(type) {
	case string:
		for _, m := range word.FindAllStringSubmatch(v, -1) {
			visit(m[1])
		}
	case []any:
		for _, x := range v {
			eachWord(x, visit)
		}
	case map[string]any:
		for _, x := range v {
			eachWord(x, visit)
		}
	}
}

// read gives the fragment's steps as a route has them.
func (fr Fragment) read(at string, a Added) ([]Step, error) {
	var faults input.Fields
	for w, says := range a.With {
		if n := len([]rune(says)); n > maxOwnSay {
			faults.Add(input.Join(at, "with."+w), fmt.Sprintf("up to %d characters", maxOwnSay), "%d are too long", n)
		}
		if _, ok := fr.With[w]; !ok {
			faults.Add(input.Join(at, "with."+w), strings.Join(slices.Sorted(maps.Keys(fr.With)), ", "),
				"the piece %q has no word {%s}", fr.ID, w)
		}
	}
	if len(faults) > 0 {
		return nil, faults
	}
	loose, _ := fr.Put(a.As, a.With) // all its words have what they say
	steps := make([]Step, len(loose))
	for i, s := range loose {
		if err := input.DecodeTree(s, &steps[i]); err != nil {
			return nil, input.Below(at, err)
		}
	}
	return steps, nil
}
