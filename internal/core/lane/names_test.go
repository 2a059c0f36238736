package lane_test

import (
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/lane"
	"agrimony/internal/core/piece"
)

// rooms are where kinds of lanes may be named: what they hold, what they do, and the makers of
// test documents; and the command that shows the walk of a phrase without a piece.
var rooms = []string{"internal/core/piece/", "internal/core/lane/", "internal/core/edit/edittest/", "cmd/agrimony/walk.go"}

// Whatever is not in a kind's own rooms asks for what a kind can do, and so takes a new kind as
// it comes.
func TestNothingElseNamesAKind(t *testing.T) {
	root := filepath.Join("..", "..", "..")
	contents := map[string]bool{}
	for name := range lane.Kinds {
		own := piece.NewLane(name, "x", "X")
		contents[reflect.TypeOf(own.Content).Elem().Name()] = true
	}
	require.Contains(t, contents, "Line")
	read := 0
	for _, folder := range []string{"internal", "cmd"} {
		require.NoError(t, filepath.WalkDir(filepath.Join(root, folder), func(path string, _ fs.DirEntry, err error) error {
			name := filepath.ToSlash(strings.TrimPrefix(path, root+string(filepath.Separator)))
			if err != nil || !strings.HasSuffix(name, ".go") || strings.HasSuffix(name, "_test.go") ||
				slices.ContainsFunc(rooms, func(room string) bool { return strings.HasPrefix(name, room) }) {
				return err
			}
			read++
			files := token.NewFileSet()
			file, err := parser.ParseFile(files, path, nil, 0)
			require.NoError(t, err)
			imports := map[*ast.BasicLit]bool{}
			for _, i := range file.Imports {
				imports[i.Path] = true
				if kind, ok := strings.CutPrefix(i.Path.Value, `"agrimony/internal/core/lane/`); ok {
					assert.NotContains(t, lane.Kinds, strings.TrimSuffix(kind, `"`), "%s imports the room of a kind", name)
				}
			}
			ast.Inspect(file, func(node ast.Node) bool {
				switch node := node.(type) {
				case *ast.SelectorExpr:
					if from, ok := node.X.(*ast.Ident); ok && from.Name == "piece" {
						assert.False(t, contents[node.Sel.Name], "%s names piece.%s", files.Position(node.Pos()), node.Sel.Name)
					}
				case *ast.BasicLit:
					if text, err := strconv.Unquote(node.Value); err == nil && node.Kind == token.STRING && !imports[node] && !reason(name) {
						assert.NotContains(t, lane.Kinds, text, "%s names a kind", files.Position(node.Pos()))
					}
				}
				return true
			})
			return nil
		}))
	}
	assert.Greater(t, read, 60)
}

// reason tells whether a file writes reasons, where a layer is a rule that shaped a note.
func reason(file string) bool { return file == "internal/core/render/told_why.go" }
