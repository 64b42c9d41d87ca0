package store

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"database/sql"
	"encoding/base64"
	"errors"
	"fmt"
	"strings"

	"golang.org/x/crypto/argon2"
)

// The cost of a password: argon2id with 64 MiB and one pass, as RFC 9106, 4 has it for machines
// with little memory to spare, on one lane.
const (
	hashTime    = 3
	hashMemory  = 64 << 10 // KiB
	hashThreads = 4
	hashLength  = 32
)

// AddAccount adds an account, or gives it a new password.
func (s *Store) AddAccount(ctx context.Context, name, password string) error {
	salt := make([]byte, 16)
	if _, err := rand.Read(salt); err != nil {
		return fmt.Errorf("salt: %w", err)
	}
	hash := argon2.IDKey([]byte(password), salt, hashTime, hashMemory, hashThreads, hashLength)
	const query = `insert into accounts (name, password_hash) values ($1, $2)
		on conflict (name) do update set password_hash = excluded.password_hash`
	encode := base64.RawStdEncoding.EncodeToString
	if _, err := s.DB.ExecContext(ctx, query, name, encode(salt)+"$"+encode(hash)); err != nil {
		return fmt.Errorf("add account %q: %w", name, err)
	}
	return nil
}

// ErrSignIn says that name and password do not belong together.
var ErrSignIn = errors.New("This name and password do not belong together. See that both are right.")

// SignIn checks a password. Its error is ErrSignIn when it is wrong or there is no such account;
// both take the same time.
func (s *Store) SignIn(ctx context.Context, name, password string) error {
	var stored string
	err := s.DB.GetContext(ctx, &stored, `select password_hash from accounts where name = $1`, name)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return fmt.Errorf("sign in: %w", err)
	}
	saltText, hashText, _ := strings.Cut(stored, "$")
	salt, _ := base64.RawStdEncoding.DecodeString(saltText)
	want, _ := base64.RawStdEncoding.DecodeString(hashText)
	got := argon2.IDKey([]byte(password), salt, hashTime, hashMemory, hashThreads, hashLength)
	if stored == "" || subtle.ConstantTimeCompare(got, want) != 1 {
		return ErrSignIn
	}
	return nil
}

// Units returns the units in which lengths are shown to an account.
func (s *Store) Units(ctx context.Context, name string) (units string, err error) {
	return units, get(ctx, s.DB, &units, "account", 0, `select units from accounts where name = $1`, name)
}

// ChooseUnits keeps the units in which lengths are shown to an account.
func (s *Store) ChooseUnits(ctx context.Context, name, units string) error {
	return get(ctx, s.DB, &name, "account", 0, `update accounts set units = $2 where name = $1 returning name`, name, units)
}
