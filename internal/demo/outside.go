package demo

import (
	"context"
	"encoding/json"
	"fmt"
	"net/netip"
	"net/url"
	"strconv"
	"strings"

	"github.com/jackc/pgx/v5"

	"oddspool/examples"
	"oddspool/internal/databases"
	"oddspool/internal/feeds"
	"oddspool/internal/secrets"
	"oddspool/internal/sources"
	"oddspool/internal/store"
)

// What the plant's own systems know the demonstration by.
const (
	DeskToken = "rope-and-tide"
	reader    = "oddspool_reader"
	readerKey = "drift-and-wrack"
)

// A Plant is where the stand-ins of the plant's machines and systems are reached.
type Plant struct {
	Printers []Reached `json:"printers"`
	Desk     string    `json:"desk,omitempty"`     // the order desk; empty: there is none
	Mail     string    `json:"mail,omitempty"`     // the mail server, as smtp://…; empty: there is none
	Issuer   string    `json:"issuer,omitempty"`   // who issues reference packs, as http://…; empty: nobody
	Database string    `json:"database,omitempty"` // the plant's own, as postgres://…; empty: there is none
}

// Addresses are those of the stand-ins, which the server may reach though they are on this machine.
func (p *Plant) Addresses() (all []netip.AddrPort) {
	addresses := []string{p.Desk, p.Issuer, p.Database}
	for _, printer := range p.Printers {
		addresses = append(addresses, printer.Address, printer.Encoder)
	}
	for _, address := range addresses {
		if at, err := url.Parse(address); err == nil {
			if one, err := netip.ParseAddrPort(at.Host); err == nil {
				all = append(all, one)
			}
		}
	}
	return all
}

// fillDatabase gives the plant's own database its tables, where it has none, and a name that may only read them.
func fillDatabase(ctx context.Context, address string) error {
	conn, err := pgx.Connect(ctx, address)
	if err != nil {
		return fmt.Errorf("the plant's database: %w", err)
	}
	defer conn.Close(ctx)
	data, err := examples.Files.ReadFile("bins.csv")
	if err != nil {
		return fmt.Errorf("the plant's database: %w", err)
	}
	bins, err := sources.Read(data, sources.Settings{})
	if err != nil {
		return fmt.Errorf("the plant's database: %w", err)
	}
	return pgx.BeginFunc(ctx, conn, func(tx pgx.Tx) error {
		var there bool
		if err := tx.QueryRow(ctx, `select exists (select from pg_tables where schemaname = 'shed'
				and tablename = 'bins')`).Scan(&there); err != nil || there {
			return err
		}
		const tables = `create schema shed;
			create table shed.bins (bin text primary key, contents text not null, lot text not null, bags int not null,
			code text not null, serial text not null, labelled_at timestamptz, labelled_by text);
			create view shed.bins_to_fill as select bin, contents, bags from shed.bins where bags < 15;
			create table shed.gauges (gauge text primary key, hall text not null, since date not null,
			reading numeric(9, 3));
			insert into shed.gauges select 'G-' || to_char(n, 'FM000'),
			case when n % 2 = 0 then 'drying hall' else 'brine hall' end, date '2026-01-05' + n * 7, n * 1.125
			from generate_series(1, 24) n`
		if _, err := tx.Exec(ctx, tables); err != nil {
			return err
		}
		rows := make([][]any, len(bins.Records))
		for i, record := range bins.Records {
			bags, err := strconv.Atoi(record[3])
			if err != nil {
				return err
			}
			rows[i] = []any{record[0], record[1], record[2], bags, record[4], record[5]}
		}
		if _, err := tx.CopyFrom(ctx, pgx.Identifier{"shed", "bins"}, []string{"bin", "contents", "lot", "bags", "code",
			"serial"}, pgx.CopyFromRows(rows)); err != nil {
			return err
		}
		_, err := tx.Exec(ctx, `do $$ begin if not exists (select from pg_roles where rolname = '`+reader+
			`') then create role `+reader+` login; end if; end $$;
			alter role `+reader+` password '`+readerKey+`'; grant usage on schema shed to `+reader+
			`; grant select on all tables in schema shed to `+reader+`;
			grant update (labelled_at, labelled_by) on shed.bins to `+reader)
		return err
	})
}

// connect keeps the connections to the plant's own systems, or where they are now.
func connect(ctx context.Context, s *store.Store, plant Plant, box *secrets.Box) error {
	if box == nil {
		return nil
	}
	there, err := s.Connections(ctx)
	if err != nil {
		return err
	}
	put := func(name string, place feeds.Place, password string) error {
		document, err := json.Marshal(place)
		if err != nil {
			return fmt.Errorf("write connection %q: %w", name, err)
		}
		sealed, err := (&feeds.Feeds{Box: box}).Seal(place, password)
		if err != nil {
			return err
		}
		c := store.Connection{Name: name, Kind: string(place.Kind), Place: document, Secret: sealed, MadeBy: Name}
		for _, one := range there {
			if one.Name == name {
				c.ID = one.ID
			}
		}
		_, err = s.PutConnection(ctx, c)
		return err
	}
	if plant.Database != "" {
		if err := fillDatabase(ctx, plant.Database); err != nil {
			return err
		}
		at, err := url.Parse(plant.Database)
		if err != nil {
			return fmt.Errorf("the plant's database: %w", err)
		}
		port, err := strconv.Atoi(at.Port())
		if err != nil {
			return fmt.Errorf("the plant's database: %w", err)
		}
		place := feeds.Place{Place: databases.Place{Kind: databases.PostgreSQL, Host: at.Hostname(), Port: port,
			Database: strings.TrimPrefix(at.Path, "/"), User: reader, TLS: databases.Plain}}
		if err := put("Shed database", place, readerKey); err != nil {
			return err
		}
	}
	if plant.Desk == "" {
		return nil
	}
	return put("Order desk", feeds.Place{Place: databases.Place{Kind: feeds.Desk}, Address: plant.Desk}, DeskToken)
}
