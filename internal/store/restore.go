package store

import (
	"cmp"
	"encoding/json"
	"errors"
	"slices"

	"gorm.io/gorm"

	"agrimony/internal/core/piece"
)

// ErrLost says that a step of the history cannot be read any more, and was forgotten with
// those beyond it. The piece stands as it is.
var ErrLost = errors.New("this step of the history cannot be read any more; it is forgotten, with those beyond it, and the piece stands as it is")

// restore gives a piece as it was before the last revision, or after the next one. A revision
// that does not fit what is stored is recovered from a whole image near by; where that fails
// too, the history is forgotten as far as it cannot be reached, and the error is ErrLost.
func (s *Store) restore(id string, now *stored, forward bool) (image, *piece.Piece, error) {
	var revisions []revisionRow
	target := now.row.Cursor - 1
	if forward {
		target = now.row.Cursor + 1
	}
	seq := max(target, now.row.Cursor)
	if err := s.db.Where("piece_id = ? AND seq = ?", id, seq).Limit(1).Find(&revisions).Error; err != nil {
		return image{}, nil, err
	}
	if len(revisions) == 0 {
		return image{}, nil, ErrNothing
	}
	if out, p, ok := applied(&revisions[0], now.image, forward); ok {
		return out, p, nil
	}
	out, p, err := s.recover(id, now, target)
	if errors.Is(err, ErrLost) {
		err = errors.Join(err, s.forget(id, seq, forward))
	}
	return out, p, err
}

// applied is an image on the other side of a revision, with its piece; false: it does not fit.
func applied(revision *revisionRow, m image, forward bool) (image, *piece.Piece, bool) {
	var d delta
	if err := json.Unmarshal(revision.Change, &d); err != nil {
		return image{}, nil, false
	}
	out, err := d.onto(m, forward)
	if err != nil {
		return image{}, nil, false
	}
	p, err := out.piece()
	return out, p, err == nil
}

// recover works a state of a piece out from the whole images in its history, the nearest
// first, and from the piece as it stands. States are counted by the revisions made before
// them.
func (s *Store) recover(id string, now *stored, target int64) (image, *piece.Piece, error) {
	var revisions []revisionRow
	if err := s.db.Where("piece_id = ?", id).Order("seq").Find(&revisions).Error; err != nil {
		return image{}, nil, err
	}
	bySeq := map[int64]*revisionRow{}
	var from []int64
	for i := range revisions {
		bySeq[revisions[i].Seq] = &revisions[i]
		if revisions[i].Image != nil {
			from = append(from, revisions[i].Seq-1)
		}
	}
	away := func(state int64) int64 { return max(state-target, target-state) }
	slices.SortFunc(from, func(a, b int64) int { return cmp.Compare(away(a), away(b)) })
next:
	for _, state := range from {
		out, err := unpack(bySeq[state+1].Image)
		if err != nil {
			continue
		}
		p, err := out.piece()
		if err != nil {
			continue
		}
		for state != target {
			forward := state < target
			seq := state
			if forward {
				seq++
			}
			ok := bySeq[seq] != nil
			if ok {
				out, p, ok = applied(bySeq[seq], out, forward)
			}
			if !ok {
				continue next
			}
			if state--; forward {
				state += 2
			}
		}
		return out, p, nil
	}
	return image{}, nil, ErrLost
}

// forget takes away the revisions that cannot be walked any more: from one on, or up to it.
func (s *Store) forget(id string, seq int64, forward bool) error {
	beyond := "piece_id = ? AND seq <= ?"
	if forward {
		beyond = "piece_id = ? AND seq >= ?"
	}
	return s.write(func(tx *gorm.DB) error { return tx.Where(beyond, id, seq).Delete(&revisionRow{}).Error })
}
