package postgres

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"encoding/json"
	"errors"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"handwerk/core/quantity"
	"handwerk/workshop/people"
	"handwerk/workshop/shop"
)

// A database where nobody has an account is opened to whoever holds the code
// that the program printed at its start: once, for half an hour.

// CodeLife is how long the code of a first run is good.
const CodeLife = 30 * time.Minute

const nobodyWorksHere = `SELECT NOT EXISTS (SELECT FROM account)`

// IsFirst tells whether nobody has an account yet.
func (s Settings) IsFirst(ctx context.Context) (first bool, err error) {
	return first, s.DB.GetContext(ctx, &first, nobodyWorksHere)
}

// IsFirstCode tells whether a code would open the workshop.
func (s Settings) IsFirstCode(ctx context.Context, code string, now time.Time) (is bool, err error) {
	return is, s.DB.GetContext(ctx, &is, `SELECT EXISTS (SELECT FROM first_code WHERE digest = $1 AND until > $2)`,
		codeDigest(code), now)
}

// FirstCode makes a new code for the first run; the one before it is void.
func (s Settings) FirstCode(ctx context.Context, now time.Time) (string, error) {
	code := rand.Text()[:16]
	_, err := s.DB.ExecContext(
		ctx,
		`INSERT INTO first_code (digest, until) VALUES ($1, $2) ON CONFLICT (one) DO UPDATE SET digest = $1, until = $2`,
		codeDigest(code),
		now.Add(CodeLife),
	)
	return code, err
}

// Begin opens the workshop with its first lead, all of it or nothing.
func (s Settings) Begin(ctx context.Context, code string, now time.Time, shop shop.Shop, lead people.Account) error {
	raw, err := marshal(shop)
	if err != nil {
		return err
	}
	err = s.InTx(ctx, func(tx *sqlx.Tx) error {
		if err := useCode(ctx, tx, code, now); err != nil {
			return err
		}
		if _, err := tx.ExecContext(
			ctx, `INSERT INTO account (login, name, role, password_hash) VALUES ($1, $2, $3, $4)`, lead.Login,
			lead.Name,
			lead.Role, lead.PasswordHash,
		); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO shop (body, by) VALUES ($1, $2)`, raw, lead.Login)
		return err
	})
	if err == nil {
		s.keepsHabits(shop)
	}
	return err
}

// useCode takes the code away when it fits; whoever comes second finds none.
func useCode(ctx context.Context, tx *sqlx.Tx, code string, now time.Time) error {
	taken, err := tx.ExecContext(
		ctx, `DELETE FROM first_code WHERE digest = $1 AND until > $2 AND NOT EXISTS (SELECT FROM account)`,
		codeDigest(code),
		now,
	)
	if err != nil {
		return err
	}
	if n, err := taken.RowsAffected(); err != nil || n != 1 {
		return errors.Join(err, shop.ErrFirstCode)
	}
	return nil
}

// Shop is what the workshop says of itself; false while it has not said it.
func (s Settings) Shop(ctx context.Context) (shop shop.Shop, ok bool, err error) {
	var raw []byte
	switch err := s.DB.GetContext(ctx, &raw, `SELECT body FROM shop ORDER BY id DESC LIMIT 1`); {
	case errors.Is(err, sql.ErrNoRows):
		return shop, false, nil
	case err != nil:
		return shop, false, err
	}
	return shop, true, json.Unmarshal(raw, &shop)
}

// codeDigest of a code as people type it: capitals and blanks do not count.
func codeDigest(code string) string {
	sum := sha256.Sum256([]byte(strings.ToUpper(strings.Join(strings.Fields(code), ""))))
	return hex.EncodeToString(sum[:])
}

// Zone is the shop's, for times in words; nil is UTC.
func (s *link) Zone() *time.Location {
	if zone := s.zone.Load(); zone != nil {
		return zone
	}
	return time.UTC
}

// KeepTime goes by the zone and units that the workshop has said; a zone that was
// named outside has the last word.
func (s Settings) KeepTime(ctx context.Context, named bool) error {
	s.zoneNamed = named
	shop, ok, err := s.Shop(ctx)
	if ok {
		s.keepsHabits(shop)
	}
	return err
}

// keepsHabits goes by a shop's clock and units from now on; records that were
// folded by others are folded anew.
func (s *link) keepsHabits(shop shop.Shop) {
	zone, err := time.LoadLocation(shop.Zone)
	if err != nil || s.zoneNamed {
		zone = s.zone.Load()
	}
	before, was := s.zone.Swap(zone), s.units.Swap(shop.Units)
	paid := s.currency.Swap(shop.Currency)
	if was != shop.Units || paid != shop.Currency || before == nil || zone == nil || before.String() != zone.String() {
		s.ledgers.forgetAll()
	}
}

// Currency is the shop's, by its three letters; empty before there is a shop.
func (s *link) Currency() string {
	said, _ := s.currency.Load().(string)
	return said
}

// readsIn is the family of units the shop reads in first.
func (s *link) readsIn() quantity.System {
	units, _ := s.units.Load().(quantity.System)
	return units
}
