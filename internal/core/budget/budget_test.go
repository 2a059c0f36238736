package budget_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/assert"

	"agrimony/internal/core/budget"
)

func spend(b *budget.Budget, work int64) (err error) {
	defer budget.Catch(&err)
	b.Spend(work)
	return nil
}

func hold(b *budget.Budget, bytes int64) (err error) {
	defer budget.Catch(&err)
	b.Hold(bytes)
	return nil
}

func TestWorkIsBounded(t *testing.T) {
	b := budget.New(10, nil)
	assert.NoError(t, spend(b, 10))
	var spent *budget.SpentError
	assert.ErrorAs(t, spend(b, 1), &spent)
	assert.NoError(t, spend(nil, 1<<60), "a nil budget has no bound")
}

func TestAPartIsSpentFromTheWhole(t *testing.T) {
	whole := budget.New(10, nil)
	part := whole.Part(6)
	assert.NoError(t, spend(part, 6))
	var spent *budget.SpentError
	assert.ErrorAs(t, spend(part, 1), &spent, "the part is used up")
	assert.Error(t, spend(whole.Part(100), 5), "a part is no larger than what is left of the whole")
}

func TestWhatNobodyWaitsForEnds(t *testing.T) {
	gone := errors.New("gone")
	var waits error
	part := budget.New(100, func() error { return waits }).Part(100)
	assert.NoError(t, spend(part, 1))
	waits = gone
	assert.ErrorIs(t, spend(part, 1), gone)
	assert.ErrorIs(t, part.Waits(), gone)
}

func TestMemoryIsHeldAndLetGo(t *testing.T) {
	b := budget.Of(budget.Limits{Memory: 100}, nil)
	assert.NoError(t, hold(b, 80))
	var memory *budget.MemoryError
	assert.ErrorAs(t, hold(b.Part(1), 30), &memory)
	assert.NoError(t, hold(b, -80))
	assert.NoError(t, hold(b, 60))
}
