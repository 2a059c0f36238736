package op

// HoldLuck writes what rounds (from 1) drew into the steps, and takes the lane's odds away.
// Of several rounds the lane becomes as long as all of them, one after another.
type HoldLuck struct {
	OnLane `tstype:",extends"`
	Rounds []int `json:"rounds"`
}

// WriteModulator writes what a modulator (from 1) gives into the steps, and takes it away.
type WriteModulator struct {
	OnLane    `tstype:",extends"`
	Modulator int `json:"modulator"`
}
