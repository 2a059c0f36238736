package smf

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestATrackRefusesWhatIsOutOfOrder(t *testing.T) {
	on := [3]byte{0x90, 60, 100}
	_, err := track(nil, []event{{at: 5, message: on}, {at: 3, message: on}}, 10)
	assert.EqualError(t, err, "an event at tick 3 after one at 5, with the end at 10")
	_, err = track(nil, []event{{at: 11, message: on}}, 10)
	assert.EqualError(t, err, "an event at tick 11 after one at 0, with the end at 10")
	made, err := track(nil, []event{{at: 3, message: on}, {at: 10, message: on}}, 10)
	assert.NoError(t, err)
	assert.Equal(t, []uint32{3, 7, 0}, []uint32{made[0].Delta, made[1].Delta, made[2].Delta})
}
