package e2e

import (
	"encoding/base64"
	"encoding/binary"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/demo"
)

// pick chooses one of several by its words.
func (p *tab) pick(words string) {
	p.t.Helper()
	p.until(fmt.Sprintf(`[...document.querySelectorAll("[role=dialog] label")].some((l) => l.textContent === %q)`, words))
	p.do(chromedp.Evaluate(fmt.Sprintf(`[...document.querySelectorAll("[role=dialog] label")].find((l) => l.textContent === %q).click()`, words), nil))
}

// offering keeps what the page offers for download.
const offering = `{
	const offer = URL.createObjectURL.bind(URL);
	URL.createObjectURL = (what) => offer((window.offered = what));
}`

// made is the file that the dialog offers.
func (p *tab) made() []byte {
	p.t.Helper()
	p.until(`document.querySelector("[role=dialog] a[download][href^=blob]")`)
	var text string
	p.do(chromedp.Evaluate(`new Promise((done) => {
		const reader = new FileReader();
		reader.onload = () => done(reader.result.split(",")[1]);
		reader.readAsDataURL(window.offered);
	})`, &text, awaited))
	out, err := base64.StdEncoding.DecodeString(text)
	require.NoError(p.t, err)
	return out
}

// wave is a sound file as a reader finds it.
type wave struct {
	rate, bits int
	samples    []float64 // of both channels in turns
}

func waveOf(t *testing.T, data []byte) wave {
	require.Equal(t, "RIFF", string(data[:4]))
	require.Equal(t, "WAVEfmt ", string(data[8:16]))
	le := binary.LittleEndian
	out := wave{rate: int(le.Uint32(data[24:])), bits: int(le.Uint16(data[34:]))}
	require.EqualValues(t, 2, le.Uint16(data[22:]))
	require.EqualValues(t, len(data)-44, le.Uint32(data[40:]))
	for at := 44; at < len(data); at += out.bits / 8 {
		switch out.bits {
		case 16:
			out.samples = append(out.samples, float64(int16(le.Uint16(data[at:])))/32767)
		case 24:
			out.samples = append(out.samples, float64(int32(uint32(data[at])<<8|uint32(data[at+1])<<16|uint32(data[at+2])<<24)>>8)/8388607)
		}
	}
	return out
}

func (w wave) peak(from, to float64) (most float64) {
	for i := int(from * float64(w.rate)); i < int(to*float64(w.rate)) && 2*i < len(w.samples); i++ {
		most = max(most, w.samples[2*i], -w.samples[2*i])
	}
	return most
}

// soundOf opens the sample and its dialog of sound files, of a clip or of the running order.
func soundOf(t *testing.T, ordered bool) *hand {
	s := serve(t)
	p, err := demo.Piece()
	require.NoError(t, err)
	require.NoError(t, s.store.Create("untitled", p))
	h := &hand{tab: s.open(t, "/piece/untitled", offering)}
	h.until(`window.agrimony?.low`)
	if ordered {
		h.key("O")
		h.until(`document.querySelector("[data-testid=bands]")`)
	}
	h.press("Render")
	h.pick("Sound")
	return h
}

// A clip comes out as sound, as long as it is and where its notes are; stopped, nothing is left of it.
func TestAClipAsASoundFile(t *testing.T) {
	h := soundOf(t, false)
	h.pick("so that it loops")
	h.pick("16 bits")
	h.pick("with the beat")
	h.until(inDialog)
	h.tab.press("Make the sound file")
	loop := waveOf(t, h.made())
	assert.Equal(t, 44100, loop.rate)
	assert.Equal(t, 203538, len(loop.samples)/2, "two bars at 104 bpm, to the frame")
	assert.Greater(t, loop.peak(0, 1), 0.02)
	assert.Less(t, loop.peak(0, 10), 1.0)

	h.pick("when its echoes have died away")
	h.pick("48 kHz")
	h.pick("24 bits")
	h.tab.press("Make the sound file")
	whole := waveOf(t, h.made())
	assert.Equal(t, 48000, whole.rate)
	assert.Greater(t, len(whole.samples)/2, 221538)
	assert.Less(t, whole.peak(float64(len(whole.samples)/2)/48000-0.05, 60), 0.01, "it has died away")

	h.pick("one for each lane, packed")
	h.tab.press("Make the sound file")
	zip := string(h.made())
	assert.Contains(t, zip, "Low.wav")
	assert.Contains(t, zip, "Reed.wav")
	assert.NotContains(t, zip, "Beat.wav")
	h.accessible("the sound file")
}

// The sample is as loud as it should be: its whole order, untouched, stays under full scale.
func TestTheSampleStaysUnderFullScale(t *testing.T) {
	h := soundOf(t, true)
	h.pick("untouched, lowered as a whole")
	h.tab.press("Make the sound file")
	sound := waveOf(t, h.made())
	assert.Contains(t, eval[string](h.tab, `document.querySelector("[data-testid=sound]").innerText`), "nothing was changed")
	assert.Greater(t, sound.peak(0, 200), 0.4, "nor is it soft")
}

// The running order comes out as sound, too; a long one can be stopped, and the page lives on.
func TestTheOrderAsASoundFile(t *testing.T) {
	s := serve(t)
	require.NoError(t, s.store.Create("many", manyClips(t, 2, 8, 4, 256)))
	p := s.open(t, "/piece/many")
	p.until(`window.agrimony?.l0`)
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	p.press("Render")
	p.pick("Sound")
	p.press("Make the sound file")
	p.until(`document.querySelector("[role=dialog] progress")?.value > 0.02`)
	p.press("Stop")
	p.until(named("Make the sound file"))
	p.key("Escape")
	p.until(`!document.querySelector("[role=dialog]")`)
	p.until(`document.querySelector("[data-testid=bands]")`)
}

// TestMeasureSoundFiles prints how fast sound files are made, and what memory a long one takes.
func TestMeasureSoundFiles(t *testing.T) {
	if os.Getenv("MEASURE") == "" {
		t.Skip("set MEASURE to measure")
	}
	t.Run("64", func(t *testing.T) { measureSound(t, 64, 8) })
	t.Run("1024", func(t *testing.T) { measureSound(t, 1024, 2) })
}

func measureSound(t *testing.T, bars, lanes int) {
	s := serve(t)
	require.NoError(t, s.store.Create("many", manyClips(t, 1, lanes, 1, bars)))
	p := s.open(t, "/piece/many")
	p.until(`window.agrimony?.l0`)
	p.key("O")
	p.until(`document.querySelector("[data-testid=bands]")`)
	before := resident()
	p.press("Render")
	p.pick("Sound")
	p.press("Make the sound file")
	most := 0
	for !eval[bool](p, `document.body.innerText.includes("made in")`) {
		most = max(most, resident())
	}
	told := eval[string](p, `document.querySelector("[data-testid=sound]").innerText`)
	fmt.Printf("%d bars of %d lanes as sound: %s; the browser took %d MB more at most\n", bars, lanes, strings.ReplaceAll(told, "\n", " "), (most-before)>>20)
}

// resident is the memory of all of the browser's processes, in bytes.
func resident() (sum int) {
	paths, _ := filepath.Glob("/proc/[0-9]*/smaps_rollup")
	for _, path := range paths {
		name, _ := os.ReadFile(filepath.Join(filepath.Dir(path), "comm"))
		if !strings.Contains(string(name), "chrom") {
			continue
		}
		data, _ := os.ReadFile(path)
		for _, line := range strings.Split(string(data), "\n") {
			if rest, ok := strings.CutPrefix(line, "Pss:"); ok {
				kb, _ := strconv.Atoi(strings.Fields(rest)[0])
				sum += kb << 10
			}
		}
	}
	return sum
}
