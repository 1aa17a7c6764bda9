package e2e

import (
	"os"
	"path/filepath"
	"regexp"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A workshop of one's own: the program prints the way in, the first lead opens
// it, and the code is good once.
func TestAWorkshopOfOnesOwnIsOpened(t *testing.T) {
	dir, err := os.MkdirTemp("", "handwerk-own")
	require.NoError(t, err)
	require.NoError(t, os.Chmod(dir, 0o755))
	p, err := Serve(bin, filepath.Join(dir, "data"))
	require.NoError(t, err)
	t.Cleanup(func() {
		assert.NoError(t, p.Stop())
		_ = os.RemoveAll(dir)
	})
	var way []string
	require.Eventually(t, func() bool {
		way = regexp.MustCompile(`http://[^\s]+/\?code=(\S+)\n`).FindStringSubmatch(p.Said())
		return len(way) == 2
	}, time.Minute, 50*time.Millisecond, "the program prints the way in")

	lead := browser.Visit(way[0])
	lead.See("You are its first lead")
	lead.axe(t, "first run")
	for _, field := range [][2]string{
		{"Its name, as papers shall say it", "Slipway garage"}, {"An hour of work costs", "58"}, {"Time zone", "Europe/Nowhere"},
		{"Your name, as the record shall say it", "Tove Lind"}, {"To sign in, a short name in small letters", "tove"}, {"Password: four words that do not belong together", "oxide lantern pulley seven"},
	} {
		lead.Type(field[0], field[1])
	}
	lead.Press("Open the workshop")
	lead.See("is no time zone")
	lead.Type("Time zone", "Europe/Lisbon")
	lead.Press("Open the workshop")
	lead.See("No rebuild is in the house")
	lead.See("Tove Lind")
	lead.MustReload()
	lead.See("Tove Lind")

	lead.Press("Tove Lind")
	lead.Type("Name of somebody new", "Odo Marrin")
	lead.Type("Signs in as, in small letters", "odo")
	lead.Type("First password, told in person", "odo")
	lead.Press("Add")
	lead.See("10 to 200 characters")
	lead.Type("First password, told in person", Password)
	lead.Press("Add")
	lead.See("signs in as odo")
	lead.axe(t, "people")
	odo := browser.SignIn(p.Base, "odo")
	odo.See("No rebuild is in the house")

	late := browser.Visit(way[0])
	late.See("Your name here")
	said, err := Run(bin, p.Dir, nil, "verify")
	require.NoError(t, err)
	assert.Contains(t, said, "0 rebuilds")
}
