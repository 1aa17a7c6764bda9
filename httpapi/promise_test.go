package httpapi_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"handwerk/httpapi"
	"handwerk/workshop"
	"handwerk/workshop/buying"
	"handwerk/workshop/record"
)

// What somebody has promised already stands before the next promise; what is in
// other hands does not. A new promise moves the rebuild on the board.
func TestTheHouseSaysWhichDayCanBePromised(t *testing.T) {
	t.Parallel()
	p, _ := opened(t)
	orders := stocked(t, p)
	odo, ilva := p.signIn("odo"), p.signIn("ilva")
	soon, later := orders["gearbox-longitudinal"], orders["transfer-case-dog"]
	soon.Promised = p.now.AddDate(0, 0, 1).Format(time.DateOnly)
	first, second := odo.begin(t, soon), odo.begin(t, later)
	theirs := orders["axle-limited-slip"]
	theirs.Promised = soon.Promised
	ilva.begin(t, theirs)

	var v buying.PromiseView
	odo.get(second+"/promise?way=rebuild", &v)
	assert.Equal(t, later.Promised, v.Promised)
	if assert.Len(t, v.Before, 1, "the other one in these hands") {
		assert.Equal(t, soon.Promised, v.Before[0].Promised)
		assert.Positive(t, v.Before[0].Hours)
		assert.Equal(t, first, "/api/v1/rebuilds/"+v.Before[0].Rebuild)
	}
	assert.Contains(t, v.Says, "after 1 promise")
	var alone buying.PromiseView
	ilva.get(second+"/promise?way=rebuild", &alone)
	assert.Len(t, alone.Before, 1, "what is in her own hands")

	step := first[strings.LastIndex(first, "/")+1:]
	day := p.now.AddDate(0, 0, 30).Format(time.DateOnly)
	odo.do(
		t,
		first+"/steps/way/entries",
		fmt.Sprintf(`{"act":"promised","due":%q,"reason":"the bearing comes by ship"}`, day),
		&record.Entry{},
	)
	var board httpapi.BoardView
	odo.get("/api/v1/board", &board)
	last := board.Rebuilds[len(board.Rebuilds)-1]
	assert.Equal(t, step, last.ID, "the latest promise stands last")
	assert.Equal(t, day, last.Place.Promised)
	assert.Equal(t, soon.Promised, last.Promised, "as it was opened")
	odo.get(second+"/promise?way=rebuild", &v)
	assert.Empty(t, v.Before, "it is promised later now")
	var days struct{ Days []workshop.Promises }
	odo.get("/api/v1/promises?from="+day, &days)
	assert.Equal(t, []workshop.Promises{{Day: day, Count: 1}}, days.Days)
}
