package localpg

import (
	"context"
	"fmt"
	"os"
	"path/filepath"

	"github.com/jackc/pgx/v5"
)

// application is the role that a shop works as. It owns the shop's databases, may make others to try a backup in, and
// nothing more: it is no superuser, so nothing that reaches the database through it runs a program or reads a file.
const application = "umberfrost_app"

func (s *Server) appSecret() string { return filepath.Join(s.dir, "app-password") }

// admit makes the role of the application where there is none, and gives it what an earlier version kept as the
// cluster's owner. A password that was lost is set again.
func (s *Server) admit(ctx context.Context) error {
	conn, err := pgx.Connect(ctx, s.ownerURL("postgres"))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	if err := s.makeApplication(ctx, conn); err != nil {
		return fmt.Errorf("the role of the application: %w", err)
	}
	rows, err := conn.Query(ctx, `
		select datname from pg_database where not datistemplate and datname <> 'postgres' and datdba <> $1::regrole`, application)
	if err != nil {
		return err
	}
	databases, err := pgx.CollectRows(rows, pgx.RowTo[string])
	if err != nil {
		return err
	}
	for _, name := range databases {
		if err := s.handOver(ctx, name); err != nil {
			return fmt.Errorf("handing the database %s to the application: %w", name, err)
		}
	}
	return nil
}

func (s *Server) makeApplication(ctx context.Context, conn *pgx.Conn) error {
	var there bool
	if err := conn.QueryRow(ctx, `select exists (select from pg_roles where rolname = $1)`, application).Scan(&there); err != nil {
		return err
	}
	saved, err := os.ReadFile(s.appSecret())
	if s.app = string(saved); err == nil && there && s.app != "" {
		return nil
	}
	s.app = newSecret()
	statement := "create role "
	if there {
		statement = "alter role "
	}
	statement += application + " login createdb nosuperuser nocreaterole noreplication password '" + s.app + "'"
	if _, err := conn.Exec(ctx, statement); err != nil {
		return err
	}
	return os.WriteFile(s.appSecret(), []byte(s.app), 0o600)
}

// handOver gives a database to the application, with all that is in it, thing by thing: what the cluster's owner has
// cannot be reassigned at once, for the system itself needs some of it.
func (s *Server) handOver(ctx context.Context, database string) error {
	conn, err := pgx.Connect(ctx, s.ownerURL(database))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	return pgx.BeginFunc(ctx, conn, func(tx pgx.Tx) error {
		rows, err := tx.Query(ctx, things, application)
		if err != nil {
			return err
		}
		statements, err := pgx.CollectRows(rows, pgx.RowTo[string])
		if err != nil {
			return err
		}
		for _, statement := range append(statements, "alter database "+pgx.Identifier{database}.Sanitize()+" owner to "+application) {
			if _, err := tx.Exec(ctx, statement); err != nil {
				return err
			}
		}
		return nil
	})
}

// things are statements that give all that is in the schema public to a role: its tables with what belongs to them,
// sequences and views that stand by themselves, types and routines, but not those of extensions.
const things = `
select format('alter schema public owner to %I', $1::text)
union all
select format('alter %s %s owner to %I',
		case c.relkind when 'S' then 'sequence' when 'v' then 'view' when 'm' then 'materialized view' else 'table' end, c.oid::regclass, $1::text)
	from pg_class c
	where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p', 'S', 'v', 'm')
		and not exists (select from pg_depend d where d.classid = 'pg_class'::regclass and d.objid = c.oid and d.deptype in ('a', 'i', 'e'))
union all
select format('alter routine %s owner to %I', p.oid::regprocedure, $1::text)
	from pg_proc p
	where p.pronamespace = 'public'::regnamespace
		and not exists (select from pg_depend d where d.classid = 'pg_proc'::regclass and d.objid = p.oid and d.deptype = 'e')
union all
select format('alter type %s owner to %I', t.oid::regtype, $1::text)
	from pg_type t
	where t.typnamespace = 'public'::regnamespace and t.typrelid = 0 and t.typelem = 0
		and not exists (select from pg_depend d where d.classid = 'pg_type'::regclass and d.objid = t.oid and d.deptype in ('e', 'i'))`
