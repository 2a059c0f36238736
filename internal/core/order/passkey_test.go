package order

import (
	"reflect"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"agrimony/internal/core/beat"
	"agrimony/internal/core/render"
)

// Passes that differ in anything that is asked for of them have keys of their own, whatever fields there are.
func TestEveryFieldOfAPassIsInItsKey(t *testing.T) {
	plain := keyOf(1, 2, &render.Options{})
	assert.Equal(t, plain, keyOf(1, 2, &render.Options{}))
	assert.NotEqual(t, plain, keyOf(2, 2, &render.Options{}))
	assert.NotEqual(t, plain, keyOf(1, 3, &render.Options{}))
	kind := reflect.TypeFor[render.Pass]()
	for i := range kind.NumField() {
		var o render.Options
		field := reflect.ValueOf(&o.Pass).Elem().Field(i)
		switch v := field.Addr().Interface().(type) {
		case *beat.Time:
			*v = 7
		case *int:
			*v = 7
		case *bool:
			*v = true
		case *[]render.Lent:
			*v = []render.Lent{{From: 7}}
		case *map[int]int:
			*v = map[int]int{1: 2}
		default:
			require.Fail(t, "a field of another type", kind.Field(i).Name)
		}
		assert.NotEqual(t, plain, keyOf(1, 2, &o), kind.Field(i).Name)
	}
}
