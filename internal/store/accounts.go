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
	"time"

	"oddspool/core/refusal"

	"golang.org/x/crypto/argon2"
)

// hashCost is what a new password costs: argon2id (RFC 9106) with 19 MiB, two passes and one lane, the least that
// OWASP's Password Storage Cheat Sheet has. A sign-in takes some 20 ms, so that many wrong ones at once keep nobody
// waiting.
var hashCost = cost{memory: 19 << 10, time: 2, threads: 1}

// earlierCost is that of passwords that were kept without their cost.
var earlierCost = cost{memory: 64 << 10, time: 3, threads: 4}

const hashLength = 32

// A cost is what checking a password takes.
type cost struct {
	memory  uint32 // KiB
	time    uint32
	threads uint8
}

func (c cost) hash(password string, salt []byte) []byte {
	return argon2.IDKey([]byte(password), salt, c.time, c.memory, c.threads, hashLength)
}

// keptPassword writes a password as it is kept: cost, salt and hash.
func keptPassword(password string, salt []byte) string {
	encode := base64.RawStdEncoding.EncodeToString
	c := hashCost
	return fmt.Sprintf("%d,%d,%d$%s$%s", c.memory, c.time, c.threads, encode(salt), encode(c.hash(password, salt)))
}

// matches tells whether a password is the one that is kept; nothing that is kept takes as long.
func matches(password, kept string) bool {
	c := hashCost
	parts := strings.Split(kept, "$")
	if len(parts) == 2 {
		c, parts = earlierCost, append([]string{""}, parts...)
	} else if len(parts) != 3 {
		parts = []string{"", "", ""}
	} else if _, err := fmt.Sscanf(parts[0], "%d,%d,%d", &c.memory, &c.time, &c.threads); err != nil {
		return false
	}
	salt, _ := base64.RawStdEncoding.DecodeString(parts[1])
	want, _ := base64.RawStdEncoding.DecodeString(parts[2])
	return subtle.ConstantTimeCompare(c.hash(password, salt), want) == 1 && kept != ""
}

// AddAccount adds an account, opens one that was closed, or gives it a new password, which ends its sessions. What
// cannot be taken is a *refusal.Error.
func (s *Store) AddAccount(ctx context.Context, name, password string) error {
	name, err := accountName(name)
	if err != nil {
		return err
	}
	if err := checkPassword(name, password); err != nil {
		return err
	}
	salt := make([]byte, 16)
	if _, err := rand.Read(salt); err != nil {
		return fmt.Errorf("salt: %w", err)
	}
	const query = `insert into accounts (name, password_hash) values ($1, $2)
		on conflict (name) do update set password_hash = excluded.password_hash, closed_at = null,
		sessions = accounts.sessions + 1`
	if _, err := s.DB.ExecContext(ctx, query, name, keptPassword(password, salt)); err != nil {
		return fmt.Errorf("add account %q: %w", name, err)
	}
	return nil
}

// CloseAccount closes an account and ends its sessions. What it did keeps its name.
func (s *Store) CloseAccount(ctx context.Context, name string) error {
	const query = `update accounts set closed_at = now(), sessions = sessions + 1 where name = $1 and closed_at is null
			returning name`
	err := s.DB.GetContext(ctx, &name, query, name)
	if errors.Is(err, sql.ErrNoRows) {
		return unknown.With(name)
	}
	if err != nil {
		return fmt.Errorf("close account %q: %w", name, err)
	}
	return nil
}

// ErrSignIn says that name and password do not belong together.
var ErrSignIn = refusal.Define("account.sign-in", refusal.Denied,
	"This name and password do not belong together. See that both are right.").With()

// A Caller is from where somebody signs in.
type Caller struct {
	Address string
	Agent   string // as the browser calls itself
}

// SignIn checks a password, and begins a session. Its error is ErrSignIn when it is wrong, or there is no such account,
// or it is closed; all take the same time.
func (s *Store) SignIn(ctx context.Context, name, password string, from Caller) (session int64, err error) {
	var is struct {
		Hash     string `db:"password_hash"`
		Sessions int    `db:"sessions"`
		Closed   bool   `db:"closed"`
	}
	name = strings.Join(strings.Fields(name), " ")
	err = s.DB.GetContext(ctx, &is, `select password_hash, sessions, closed_at is not null as closed from accounts
			where name = $1`, name)
	if err != nil && !errors.Is(err, sql.ErrNoRows) {
		return 0, fmt.Errorf("sign in: %w", err)
	}
	if right := matches(password, is.Hash); !right || is.Closed {
		return 0, ErrSignIn
	}
	const query = `with old as (delete from sign_ins where account = $1 and began_at < now() - interval '90 days')
		insert into sign_ins (account, sessions, address, agent) values ($1, $2, $3, $4) returning id`
	if err := s.DB.GetContext(ctx, &session, query, name, is.Sessions, plainText(from.Address, mostCaller),
		plainText(from.Agent, mostCaller)); err != nil {
		return 0, fmt.Errorf("begin session: %w", err)
	}
	return session, nil
}

// mostCaller is how many bytes are kept of what a browser says.
const mostCaller = 400

// plainText makes what comes from outside a text that can be kept.
func plainText(text string, most int) string {
	return strings.ToValidUTF8(strings.ReplaceAll(text[:min(len(text), most)], "\x00", ""), "")
}

// A Session is one sign-in that was not ended.
type Session struct {
	ID      int64     `db:"id"`
	Address string    `db:"address"`
	Agent   string    `db:"agent"`
	BeganAt time.Time `db:"began_at"`
	SeenAt  time.Time `db:"seen_at"`
}

// openSessions are those that nobody ended, of accounts that are open and have the password they had.
const openSessions = ` from sign_ins s join accounts a on a.name = s.account and a.sessions = s.sessions
		and a.closed_at is null where s.ended_at is null `

// SessionOpen tells whether a session goes on.
func (s *Store) SessionOpen(ctx context.Context, id int64) (open bool, err error) {
	if err = s.DB.GetContext(ctx, &open, `select exists (select 1`+openSessions+`and s.id = $1)`, id); err != nil {
		return false, fmt.Errorf("look at session %d: %w", id, err)
	}
	return open, nil
}

// SeeSession notes that a session is used.
func (s *Store) SeeSession(ctx context.Context, id int64) error {
	if _, err := s.DB.ExecContext(ctx, `update sign_ins set seen_at = now() where id = $1`, id); err != nil {
		return fmt.Errorf("note session %d: %w", id, err)
	}
	return nil
}

// Sessions lists the sessions of an account that go on, the latest first: those used within idle and begun within
// longest.
func (s *Store) Sessions(ctx context.Context, name string, idle, longest time.Duration) (sessions []Session,
	err error) {
	const query = `select s.id, s.address, s.agent, s.began_at, s.seen_at` + openSessions +
		`and s.account = $1 and s.seen_at > now() - $2 * interval '1 second'
				and s.began_at > now() - $3 * interval '1 second' order by s.began_at desc, s.id desc`
	if err := list(ctx, s.DB, &sessions, query, name, idle.Seconds(), longest.Seconds()); err != nil {
		return nil, fmt.Errorf("list sessions: %w", err)
	}
	return sessions, nil
}

// EndSession ends a session of an account.
func (s *Store) EndSession(ctx context.Context, name string, id int64) error {
	return get(ctx, s.DB, &id, "session", id, `update sign_ins set ended_at = now() where id = $1 and account = $2
			and ended_at is null returning id`, id, name)
}

// EndOtherSessions ends all sessions of an account but one.
func (s *Store) EndOtherSessions(ctx context.Context, name string, but int64) error {
	if _, err := s.DB.ExecContext(ctx, `update sign_ins set ended_at = now() where account = $1 and id <> $2
			and ended_at is null`, name, but); err != nil {
		return fmt.Errorf("end sessions: %w", err)
	}
	return nil
}

// Units returns the units in which lengths are shown to an account.
func (s *Store) Units(ctx context.Context, name string) (units string, err error) {
	return units, get(ctx, s.DB, &units, "account", 0, `select units from accounts where name = $1`, name)
}

// ChooseUnits keeps the units in which lengths are shown to an account.
func (s *Store) ChooseUnits(ctx context.Context, name, units string) error {
	return get(ctx, s.DB, &name, "account", 0, `update accounts set units = $2 where name = $1
			returning name`, name, units)
}
