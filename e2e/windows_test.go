package e2e

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// signIn opens a window for somebody, which is closed when the test ends.
func signIn(t testing.TB, base, login string) *Person {
	t.Helper()
	p := visit(t, base)
	p.SignIn(login)
	return p
}

// visit opens a window, which is closed when the test ends: what is left open goes on
// drawing and asking.
func visit(t testing.TB, base string) *Person {
	t.Helper()
	p := browser.Visit(base)
	p = at(p.Page, base, func(why any) { t.Fatal(why) })
	t.Cleanup(func() { assert.NoError(t, p.Page.Browser().Close()) })
	return p
}
