package op

// TakeGroove makes a groove template of a lane: its mean offset and velocity in each
// sixteenth.
type TakeGroove struct {
	OnLane `tstype:",extends"`
	Name   string `json:"name,omitempty"`
}

// PrintGroove writes the groove into the lane's nudges and velocities, and sets its share
// to 0.
type PrintGroove struct {
	OnLane `tstype:",extends"`
}
