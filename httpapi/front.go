package httpapi

import (
	"io/fs"
	"mime"
	"net/http"
	"net/url"
	"path"
	"strings"

	"github.com/gofiber/fiber/v3"
)

// stepScript is the file that shows a step; empty where it was built otherwise.
func (a *api) stepScript() string {
	found, err := fs.Glob(a.Front, "assets/steps-*.js")
	if err != nil || len(found) != 1 {
		return ""
	}
	return found[0]
}

// front serves the built front end: hashed assets for good, the page for
// every other address, since the browser routes within it.
func (a *api) front() fiber.Handler {
	steps := a.stepScript()
	return func(c fiber.Ctx) error {
		if c.Method() != http.MethodGet && c.Method() != http.MethodHead {
			c.Set(fiber.HeaderAllow, "GET, HEAD")
			return problem(http.StatusMethodNotAllowed, "Not done here", "This address can only be read.")
		}
		name := strings.TrimPrefix(path.Clean("/"+c.Path()), "/")
		raw, err := fs.ReadFile(a.Front, name)
		if err != nil {
			if strings.HasPrefix(name, "assets/") {
				return problem(http.StatusNotFound, "Not here", "There is no such file.")
			}
			a.ahead(c, name, steps)
			name = "index.html"
			if raw, err = fs.ReadFile(a.Front, name); err != nil {
				return problem(http.StatusNotFound, "No front end",
					"The front end was not built into this program. Run make build.")
			}
		}
		if strings.HasPrefix(name, "assets/") {
			c.Set(fiber.HeaderCacheControl, "public, max-age=31536000, immutable")
		} else {
			c.Set(fiber.HeaderCacheControl, "no-cache")
		}
		c.Set(fiber.HeaderContentType, mime.TypeByExtension(path.Ext(name)))
		c.Vary(fiber.HeaderAcceptEncoding)
		if packed, err := fs.ReadFile(a.Front, name+".br"); err == nil && c.Get(fiber.HeaderAcceptEncoding) != "" &&
			c.AcceptsEncodings("br") == "br" {
			c.Set(fiber.HeaderContentEncoding, "br") // packed once, when it was built
			return c.Send(packed)
		}
		return c.Send(raw)
	}
}

// planOf names the copy of the book of a rebuild, to somebody who is signed in: its
// name stands in an answer that the page has to wait for.
func (a *api) planOf(c fiber.Ctx, rebuild string) []string {
	if _, err := a.sessionOf(c, false); err != nil {
		return nil
	}
	l, err := a.Workshop.Ledger(c.Context(), rebuild)
	if err != nil {
		return nil
	}
	return []string{"plans/" + l.Plan.Hash}
}

// ahead names what a page will ask for, so that it is on its way while the first
// script still is: the script of a step, and what is shown to whoever is signed in.
func (a *api) ahead(c fiber.Ctx, page, steps string) {
	var links []string
	parts := strings.Split(page, "/")
	bench := parts[0] == "rebuilds" && len(parts) > 1
	if steps != "" && bench {
		links = append(links, "</"+steps+">; rel=modulepreload")
	}
	if c.Cookies(a.cookieName(sessionCookie)) != "" {
		answers := []string{"session"}
		switch {
		case page == "":
			answers = append(answers, "board")
		case bench && len(parts) == 3:
			rebuild := "rebuilds/" + url.PathEscape(parts[1])
			answers = append(append(answers, rebuild, rebuild+"/steps/"+url.PathEscape(parts[2])),
				a.planOf(c, parts[1])...)
		}
		for _, answer := range answers {
			links = append(links, "<"+prefix+"/"+answer+">; rel=preload; as=fetch; crossorigin")
		}
	}
	if len(links) > 0 {
		c.Set(fiber.HeaderLink, strings.Join(links, ", "))
	}
}
