package learning

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"

	"handwerk/core/ringpinion"
	"handwerk/postgres/conn"
)

// Axles are what set-up axles have taught of their families.
type Axles struct{ *conn.Link }

const selectAxle = `SELECT e.result FROM entry e JOIN rebuild r ON r.id = e.rebuild_id
	WHERE e.method LIKE 'ring-pinion/%' AND r.unit->>'sheet' = $1 AND e.result->>'stands' = 'in'
	AND NOT EXISTS (SELECT 1 FROM entry n WHERE n.supersedes = e.id)
	ORDER BY e.at DESC LIMIT 1`

// LastAxle is what the last axle of a family that was set up right teaches of the next;
// nil where there is none.
func (s Axles) LastAxle(ctx context.Context, sheet string) (*ringpinion.Learned, error) {
	var raw json.RawMessage
	if err := s.DB.GetContext(ctx, &raw, selectAxle, sheet); errors.Is(err, sql.ErrNoRows) {
		return nil, nil
	} else if err != nil {
		return nil, err
	}
	var result struct {
		K     ringpinion.Factor  `json:"k"`
		Gives *ringpinion.Factor `json:"gives"`
	}
	if err := json.Unmarshal(raw, &result); err != nil {
		return nil, err
	}
	taught := ringpinion.Teach(result.K, result.Gives)
	return &taught, nil
}
