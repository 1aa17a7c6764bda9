package practice

// Given is what the sheet says: of the thing's kind only.
type Given struct {
	Reads   []string     `json:"reads"`         // what may be read: instruments, or tests
	Dial    Dial         `json:"dial,omitzero"` // what reads lengths
	Minutes GivenMinutes `json:"minutes"`

	Dowels      []Point  `json:"dowels,omitempty"` // housing: from the bore's centre
	DowelSizes  []Length `json:"dowel_sizes,omitempty"`
	StepDeg     float64  `json:"step_deg,omitempty"` // in which dowels are turned
	MaxBind     Length   `json:"max_bind,omitzero"`
	LimitOffset Length   `json:"limit_offset,omitzero"`
	Positive    string   `json:"positive,omitempty" enum:"plunger_in"`

	Required    Length    `json:"required_depth,omitzero"` // axle
	DepthTol    Length    `json:"depth_tolerance,omitzero"`
	BacklashMin Length    `json:"backlash_min,omitzero"`
	BacklashMax Length    `json:"backlash_max,omitzero"`
	PlayMin     Length    `json:"side_play_min,omitzero"` // below nought is preload
	PlayMax     Length    `json:"side_play_max,omitzero"`
	RunoutMax   Length    `json:"runout_max,omitzero"` // of the ring
	Geometry    *Geometry `json:"geometry,omitempty"`
	Direction   string    `json:"direction,omitempty" enum:"tangential"`
	RingSide    string    `json:"ring_side,omitempty" enum:"left,right"`
	ShimSide    string    `json:"shim_side,omitempty" enum:"head,flange"`
	ShimStep    Length    `json:"shim_step,omitzero"`
	AsFound     *Assembly `json:"as_found,omitempty"` // the packs in it as it came

	Complaint string `json:"complaint,omitempty"` // fault
	Parts     []Part `json:"parts,omitempty"`
}

// GivenMinutes is what an act costs.
type GivenMinutes struct {
	Read     float64 `json:"read"`               // a reading of the dial
	Assemble float64 `json:"assemble,omitempty"` // taking it apart and putting it together
}

// Dial is the gauge that reads.
type Dial struct {
	Resolution Length `json:"resolution"`
}

// Point is a place from the bore's centre: right and up, seen from behind.
type Point struct {
	X Length `json:"x"`
	Y Length `json:"y"`
}

// Geometry are the tooth's nominal angles in degrees.
type Geometry struct {
	PressureDeg float64 `json:"pressure_deg"`
	SpiralDeg   float64 `json:"spiral_deg"`
	PitchDeg    float64 `json:"pitch_deg"`
}

// Part is one that may be ordered, with its price.
type Part struct {
	Name  string  `json:"name"`
	Price float64 `json:"price"`
}

// Truth is what only the program knew: of the thing's kind only.
type Truth struct {
	Within bool   `json:"within"`         // it is right now
	Trap   string `json:"trap,omitempty"` // what was wrong beside it

	Right  *Length `json:"right,omitempty"` // housing: the bore from the crankshaft, with plain dowels
	Up     *Length `json:"up,omitempty"`
	Radius *Length `json:"radius,omitempty"` // of the bore
	Sag    *Length `json:"sag,omitempty"`    // of the indicator's arm
	Dowels []Point `json:"dowels,omitempty"` // where they really sit
	Now    *Point  `json:"now,omitempty"`    // where the bore stands after the last act

	PinionShim *Length  `json:"pinion_shim,omitempty"` // axle: the right assembly
	LeftPack   *Length  `json:"left_pack,omitempty"`   // the right one
	RightPack  *Length  `json:"right_pack,omitempty"`  // and the other side's
	Depth      *Length  `json:"depth,omitempty"`       // as it stands
	Backlash   *Length  `json:"backlash,omitempty"`
	Play       *Length  `json:"side_play,omitempty"`
	K          *float64 `json:"k,omitempty"` // backlash for each unit of ring

	Causes []string `json:"causes,omitempty"` // fault: the parts that were broken
}

func pointOf(x, y float64) Point { return Point{mm(x), mm(y)} }

func some(v float64) *Length { return new(mm(v)) }
