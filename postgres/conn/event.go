package conn

import "encoding/json"

// Channel is where events are told.
const Channel = "handwerk_entry"

// Event tells that a rebuild has a new entry, or that sessions ended. An empty
// one means that events may have been missed: whoever listens reads again.
type Event struct {
	Rebuild string `json:"rebuild,omitempty"`
	Seq     int    `json:"seq,omitempty"`
	Step    string `json:"step,omitempty"`
	Session string `json:"session,omitempty"` // the digest of the one that ended
}

// Encode is the event as it is told.
func (e Event) Encode() string {
	raw, _ := json.Marshal(e) // plain fields, cannot fail
	return string(raw)
}

// DecodeEvent reads what was told; false for what is none.
func DecodeEvent(payload string) (Event, bool) {
	var e Event
	return e, json.Unmarshal([]byte(payload), &e) == nil
}
