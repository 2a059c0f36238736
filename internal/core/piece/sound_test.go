package piece_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/piece"
)

// soundOf reads a piece of one line with such a sound.
func soundOf(sound string) (*piece.Piece, error) {
	return piece.Read([]byte(fmt.Sprintf(`{"format":"agrimony-piece","version":1,"clips":[{"lanes":[{"steps":[{}],"sound":%s}]}]}`, sound)))
}

// A voice comes with its envelope; what a document states of it stays, and is kept.
func TestAVoiceComesWithItsEnvelope(t *testing.T) {
	for _, row := range []struct {
		sound                           string
		attack, decay, sustain, release int
		written                         string
	}{
		{`{"voice":"pad"}`, 72, 80, 100, 62, `{"voice": "pad"}`},
		{`{"voice":"pluck"}`, 10, 65, 0, 50, `{"voice": "pluck"}`},
		{`{"attack":5,"voice":"pad"}`, 5, 80, 100, 62, `{"voice": "pad", "attack": 5}`},
		{`{"voice":"keys","decay":40}`, 15, 40, 20, 45, `{"voice": "keys", "decay": 40}`},
		{`{"decay":40}`, 20, 40, 70, 30, ``},
		{`{"voice":"pluck","sustain":70}`, 10, 65, 70, 50, `{"voice": "pluck", "sustain": 70}`},
	} {
		p, err := soundOf(row.sound)
		require.NoError(t, err, row.sound)
		own := p.Clips[0].Lanes[0].Sound
		assert.Equal(t, [4]int{row.attack, row.decay, row.sustain, row.release}, [4]int{own.Attack, own.Decay, own.Sustain, own.Release}, row.sound)
		text := piece.Write(p)
		if row.written != "" {
			assert.Contains(t, string(text), row.written)
		} else {
			assert.NotContains(t, string(text), "sound")
		}
		again, err := piece.Read(text)
		require.NoError(t, err)
		assert.Equal(t, own, again.Clips[0].Lanes[0].Sound, row.sound)
	}
}

func TestSoundValuesOutOfRangeAreRefused(t *testing.T) {
	for sound, words := range map[string]string{
		`{"pan":-101}`:         "clips[0].lanes[0].sound.pan: -101 is below -100; allowed: -100..100",
		`{"width":4}`:          "clips[0].lanes[0].sound.width: 4 is below 5; allowed: 5..95",
		`{"attack":101}`:       "clips[0].lanes[0].sound.attack: 101 is above 100; allowed: 0..100",
		`{"release":-1}`:       "clips[0].lanes[0].sound.release: -1 is below 0; allowed: 0..100",
		`{"reverb":200}`:       "clips[0].lanes[0].sound.reverb: 200 is above 100; allowed: 0..100",
		`{"delayRate":"1/32"}`: `clips[0].lanes[0].sound.delayRate: "1/32" is not allowed; allowed: 1/2, 1/4D, 1/4, 1/4T, 1/8D, 1/8, 1/8T, 1/16D, 1/16`,
		`{"wave":"sine"}`:      `clips[0].lanes[0].sound.wave: "sine" is not allowed; allowed: saw, pulse, triangle`,
		`{"voice":"organ"}`:    `clips[0].lanes[0].sound.voice: "organ" is not allowed; allowed: bass, sub, pluck, lead, bell, keys, pad, kit`,
	} {
		_, err := soundOf(sound)
		assert.EqualError(t, err, words)
	}
}

// Every voice has a sound of its own, which reading, checking and writing keep.
func TestEveryVoiceSounds(t *testing.T) {
	sounds := piece.VoiceSounds()
	require.Len(t, sounds, len(piece.Voices))
	for i, sound := range sounds {
		assert.Equal(t, piece.Voices[i], sound.Voice)
		p, err := soundOf(`{"voice":"` + sound.Voice + `"}`)
		require.NoError(t, err)
		assert.Equal(t, sound, p.Clips[0].Lanes[0].Sound)
	}
}
