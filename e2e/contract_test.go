package e2e

import (
	"os"
	"os/exec"
	"testing"

	"github.com/stretchr/testify/require"
)

// A client generated from the description of the API, with nothing by hand but
// what its security schemes ask for; see web/contract.
func TestAGeneratedClientWorks(t *testing.T) {
	t.Parallel()
	p := demo(t)
	run := exec.Command("npx", "--no-install", "vitest", "run", "--config", "contract/vitest.config.ts")
	run.Dir, run.Env = "../web", append(os.Environ(), "HANDWERK_BASE="+p.Base)
	said, err := run.CombinedOutput()
	require.NoError(t, err, string(said))
}
