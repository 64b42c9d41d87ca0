package databases

import (
	"context"
	"errors"

	"github.com/jackc/pgx/v5/pgconn"
)

// An Identity is which database one is, however it is reached: an address can be written in many ways, and lead through
// others.
type Identity struct {
	System   string `db:"system"`    // of PostgreSQL's cluster and its copies; empty: of no PostgreSQL that tells
	Database string `db:"database"`  // within it
	ReadsAll bool   `db:"reads_all"` // who asks may read the files of the whole server
}

// IdentityQuery asks a PostgreSQL database for its Identity.
const IdentityQuery = `select c.system_identifier::text as system, d.oid::text as database,
	r.rolsuper or pg_has_role(r.oid, 'pg_read_server_files', 'member') or pg_has_role(r.oid,
	'pg_execute_server_program', 'member') as reads_all
	from pg_control_system() c, pg_database d, pg_roles r where d.datname = current_database()
	and r.rolname = current_user`

// errUnknown is the answer of a database that does not tell which it is.
var errUnknown = &Error{Text: "The database does not let its account read which one it is (pg_control_system), so " +
	"that it may be Odd Spool's own. Allow that account to execute this function."}

// Identity returns which database it is; its zero value is that of one that no PostgreSQL of today keeps. Its error is
// an *Error.
func (d *Database) Identity(ctx context.Context) (is Identity, err error) {
	if d.at.Kind != PostgreSQL {
		return is, nil
	}
	for row, err := range d.list(ctx, IdentityQuery) {
		var refused *pgconn.PgError
		switch {
		case err == nil:
			// and on to the end of the answer: what is broken off takes the connection with it
			is = Identity{row[0], row[1], row[2] == "true"}
		case errors.As(err, &refused) && refused.Code == "42501": // insufficient_privilege
			return is, errUnknown
		case errors.As(err, &refused): // another system that speaks alike, or an older version
			return is, nil
		default:
			return is, err
		}
	}
	return is, nil
}
