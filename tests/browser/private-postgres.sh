#!/usr/bin/env bash
# A PostgreSQL of a test's own with the demo in it, which it may restart:  private-postgres.sh start|restart|stop FOLDER
# "start" prints its connection string.
. "$(dirname "${BASH_SOURCE[0]}")/../../scripts/lib.sh"
folder=$2
case "$1" in
  start)
    mkdir -p "$folder"
    "$(pg_bin)/pg_dump" -d "$GOLDEN_RULE_PSQL_URL/$GOLDEN_RULE_DEMO" > "$folder/demo.sql"
    start_postgres "$folder" "-c fsync=off" >&2
    "$(pg_bin)/psql" -q "$psql_url/golden_rule" -f "$folder/demo.sql" >/dev/null
    echo "$connection"
    ;;
  restart)
    # As after a power cut: nobody is waited for.
    pg "$(pg_bin)/pg_ctl" -D "$folder/pg/data" -m immediate -w -l "$folder/pg/log" restart >/dev/null
    ;;
  stop)
    stop_postgres "$folder"
    rm -rf "$folder"
    ;;
esac
