package store_test

import (
	"fmt"
	"os"

	"agrimony/internal/core/piece"
	"agrimony/internal/store"
)

// An edit is on disk when Edit returns, and can be undone and done again, also by another process.
func ExampleStore_Edit() {
	folder, err := os.MkdirTemp("", "pieces-*")
	if err != nil {
		panic(err)
	}
	defer os.RemoveAll(folder)
	st, err := store.Open(folder)
	if err != nil {
		panic(err)
	}
	defer st.Close()
	if err := st.Create("regatta", piece.Default()); err != nil {
		panic(err)
	}
	slower := func(p *piece.Piece) (*piece.Piece, string, error) {
		next := p.Clone()
		next.Tempo = 90
		return next, "slow down", nil
	}
	state, err := st.Edit("regatta", 1, "", slower)
	if err != nil {
		panic(err)
	}
	fmt.Println(state.Version, state.Piece.Tempo, state.Undo)
	state, err = st.Undo("regatta", state.Version, "", nil)
	if err != nil {
		panic(err)
	}
	fmt.Println(state.Version, state.Piece.Tempo, state.Redo)
	// Output:
	// 2 90 slow down
	// 3 120 slow down
}
