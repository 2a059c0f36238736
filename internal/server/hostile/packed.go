package hostile

import (
	"bytes"
	"compress/flate"
)

// packed is the event with which a file of ours holds what it was rendered from (see package files).
func packed(held []byte) []byte {
	out := bytes.NewBuffer(append([]byte{0x7d}, "agrimony\x01"...))
	writer, err := flate.NewWriter(out, flate.BestCompression)
	if err != nil {
		panic(err) // the level is one of the package's
	}
	if _, err := writer.Write(held); err != nil {
		panic(err) // a buffer takes all
	}
	if err := writer.Close(); err != nil {
		panic(err)
	}
	return out.Bytes()
}
