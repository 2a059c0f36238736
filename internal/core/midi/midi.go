// Package midi has what the MIDI standards fix: channels, status bytes, controllers, registered parameters, the
// limits of zones and the drums' notes. Each stands here once, with the specification that it is from.
package midi

// DrumChannel is the channel, counted from 1, that the General MIDI specification keeps for drums.
const DrumChannel = 10

// Status bytes of messages to a channel, of the MIDI 1.0 specification: the channel, counted from 0, is added.
const (
	NoteOff         = 0x80
	NoteOn          = 0x90
	KeyPressure     = 0xa0
	Control         = 0xb0
	Program         = 0xc0
	ChannelPressure = 0xd0
	Bend            = 0xe0
	// KindMask takes the channel away from a status byte, and ChannelMask the kind.
	KindMask, ChannelMask = 0xf0, 0x0f
)

// BendCentre is the wheel at rest, as it is sent: 0..16383.
const BendCentre = 8192

// Controllers, of the MIDI 1.0 specification.
const (
	PortamentoTime = 5
	DataEntry      = 6
	DataEntryFine  = 38
	Sustain        = 64
	Portamento     = 65
	PortamentoFrom = 84
	NRPNFine       = 98
	NRPNCoarse     = 99
	RPNFine        = 100
	RPNCoarse      = 101
	// FirstMode is from where on controllers are messages of the channel's mode.
	FirstMode = 120
)

// Registered parameters: the wheel's range in semitones, of the MIDI 1.0 specification, and how many members a zone
// has, of the MIDI Polyphonic Expression specification. NoParameter is 127 in both of its controllers.
const (
	BendRange   = 0
	ZoneMembers = 6
	NoParameter = 127
)

// How many members a zone has at most that is alone, and two zones have together, of the MIDI Polyphonic Expression
// specification.
const (
	MostMembers         = 15
	MostMembersTogether = 14
)

// UsualBendRange is the wheel's range, in semitones, where nothing says it, of the General MIDI specification.
const UsualBendRange = 2
