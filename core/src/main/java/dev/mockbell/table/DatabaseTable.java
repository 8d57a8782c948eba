package dev.mockbell.table;

import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import java.io.IOException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Driver;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.sql.Types;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Properties;
import java.util.ServiceLoader;
import java.util.stream.Collectors;

/**
 * A table of a database that rows are written into, in one transaction: all of them, or nothing is changed.
 *
 * @param url of JDBC
 * @param name of the table, with its schema where it has one: {@code closures}, {@code trails.closures}
 * @param replaces whether the rows take the place of those that are there; they are added to them otherwise
 * @param user who logs in; empty for nobody
 * @param driver the file of the driver; empty for one that this program has
 */
public record DatabaseTable(
        String url, String name, boolean replaces, Optional<String> user, String password, Optional<Path> driver) {
    private static final int BATCH = 500;

    /** A table of an SQLite file, which is made when it is not there. */
    public static DatabaseTable sqlite(Path file, String name, boolean replaces) {
        return new DatabaseTable("jdbc:sqlite:" + file, name, replaces, Optional.empty(), "", Optional.empty());
    }

    /**
     * Writes the rows. A table that is not there is made of the columns; one that is there must have columns of their names.
     *
     * @return how many rows were written
     * @throws Problem when the database refuses, or a value is not of its column's type
     */
    public int write(Table table) {
        if (table.columns().isEmpty()) {
            throw Problem.input("The table has no columns", name, "Choose some.");
        }
        try (Loaded loaded = load();
                Connection connection = connect(loaded.driver())) {
            connection.setAutoCommit(false);
            try {
                Dialect dialect = Dialect.of(connection);
                prepare(connection, dialect, table);
                int written = insert(connection, dialect, table);
                connection.commit();
                return written;
            } catch (SQLException | RuntimeException e) {
                connection.rollback();
                throw e;
            }
        } catch (SQLException e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The database refuses: " + Problem.reason(e).strip().replaceAll("\\s+", " "),
                    name,
                    "Nothing was changed.",
                    e);
        }
    }

    /** A driver with the file that it was read from. */
    private record Loaded(Driver driver, Optional<URLClassLoader> from) implements AutoCloseable {
        @Override
        public void close() {
            try {
                if (from.isPresent()) {
                    from.get().close();
                }
            } catch (IOException stays) {
                // the file is only read, and let go with the process at the latest
            }
        }
    }

    private Loaded load() {
        try {
            URLClassLoader from = null;
            if (driver.isPresent()) {
                if (!Files.isRegularFile(driver.get())) {
                    throw Problem.input(
                            "The driver's file is not there", driver.get().toString(), "Check the path.");
                }
                URL[] urls = {driver.get().toUri().toURL()};
                from = new URLClassLoader(urls, getClass().getClassLoader());
            }
            ClassLoader loader = from == null ? getClass().getClassLoader() : from;
            for (Driver found : ServiceLoader.load(Driver.class, loader)) {
                if (found.acceptsURL(url)) {
                    return new Loaded(found, Optional.ofNullable(from));
                }
            }
        } catch (IOException | SQLException | java.util.ServiceConfigurationError e) {
            throw Problem.of(
                    Problem.Kind.INPUT,
                    "The driver cannot be used: " + Problem.reason(e),
                    shownUrl(),
                    "Give another.",
                    e);
        }
        throw Problem.input(
                "No driver is known for this database",
                shownUrl(),
                driver.isPresent() ? "The driver's file has none for it." : "Give the driver's file (a jar).");
    }

    private Connection connect(Driver with) throws SQLException {
        Properties properties = new Properties();
        user.ifPresent(u -> properties.setProperty("user", u));
        if (!password.isEmpty()) {
            properties.setProperty("password", password);
        }
        Connection connection = with.connect(url, properties);
        if (connection == null) {
            throw new SQLException("the driver does not take the address " + shownUrl());
        }
        return connection;
    }

    /** Without the password that some write into it. */
    private String shownUrl() {
        return Redactor.USUAL.text(url).replaceAll("(?i)(password=)[^&;]*", "$1" + Redactor.MASK);
    }

    private void prepare(Connection connection, Dialect dialect, Table table) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            boolean there = dialect.exists(connection, name);
            if (there && replaces) {
                statement.executeUpdate("DELETE FROM " + dialect.quoted(name));
            }
            if (!there) {
                statement.executeUpdate("CREATE TABLE " + dialect.quoted(name) + " ("
                        + table.columns().stream()
                                .map(c -> dialect.quotedOne(c.name()) + " " + dialect.type(c.type()))
                                .collect(Collectors.joining(", "))
                        + ")");
            }
        }
    }

    private int insert(Connection connection, Dialect dialect, Table table) throws SQLException {
        List<Column> columns = table.columns();
        String names = columns.stream().map(c -> dialect.quotedOne(c.name())).collect(Collectors.joining(", "));
        String marks = columns.stream().map(c -> "?").collect(Collectors.joining(", "));
        String sql = "INSERT INTO " + dialect.quoted(name) + " (" + names + ") VALUES (" + marks + ")";
        int written = 0;
        try (PreparedStatement insert = connection.prepareStatement(sql)) {
            for (Table.Row row : table.rows()) {
                for (int i = 0; i < columns.size(); i++) {
                    bind(insert, i + 1, columns.get(i), row.value(columns.get(i)), written + 1, dialect);
                }
                insert.addBatch();
                if (++written % BATCH == 0) {
                    insert.executeBatch();
                }
            }
            insert.executeBatch();
        }
        return written;
    }

    private void bind(PreparedStatement insert, int at, Column column, String text, int row, Dialect dialect)
            throws SQLException {
        if (Table.isNothing(text) || text.isBlank() && column.type() != Type.TEXT) {
            insert.setNull(at, dialect.code(column.type()));
            return;
        }
        Object value = column.type()
                .value(text)
                .orElseThrow(() -> Problem.input(
                        "The value “" + shown(text) + "” in row " + row + " is not of the type "
                                + column.type().title(),
                        column.name(),
                        "Choose another type for the column. Nothing was changed."));
        dialect.bind(insert, at, value, text);
    }

    private static String shown(String text) {
        return text.length() > 60 ? text.substring(0, 59) + "…" : text;
    }

    /** What databases write each in its own way. */
    private record Dialect(String product, String quote) {
        static Dialect of(Connection connection) throws SQLException {
            String quote = connection.getMetaData().getIdentifierQuoteString();
            String product = connection.getMetaData().getDatabaseProductName();
            return new Dialect(product.toLowerCase(Locale.ROOT), quote == null || quote.isBlank() ? "\"" : quote);
        }

        private boolean isSqlite() {
            return product.contains("sqlite");
        }

        String quotedOne(String name) {
            return quote + name.replace(quote, quote + quote) + quote;
        }

        /** A name with a full stop is that of a schema and that of a table in it. */
        String quoted(String name) {
            List<String> parts = new ArrayList<>();
            for (String part : name.split("\\.", 2)) {
                parts.add(quotedOne(part));
            }
            return String.join(".", parts);
        }

        boolean exists(Connection connection, String name) throws SQLException {
            String[] parts = name.split("\\.", 2);
            String schema = parts.length > 1 ? parts[0] : null;
            String table = parts[parts.length - 1];
            String escape = connection.getMetaData().getSearchStringEscape();
            String pattern =
                    escape == null ? table : table.replace("_", escape + "_").replace("%", escape + "%");
            try (ResultSet found = connection.getMetaData().getTables(connection.getCatalog(), schema, pattern, null)) {
                while (found.next()) {
                    if (found.getString("TABLE_NAME").equals(table)) {
                        return true;
                    }
                }
                return false;
            }
        }

        String type(Type type) {
            boolean postgres = product.contains("postgres");
            return switch (type) {
                case TEXT -> isSqlite() || postgres ? "TEXT" : "VARCHAR(4000)";
                case WHOLE -> isSqlite() ? "INTEGER" : "NUMERIC(38, 0)";
                case DECIMAL -> isSqlite() || postgres ? "NUMERIC" : "NUMERIC(38, 10)";
                case BOOLEAN -> "BOOLEAN";
                case DATE -> isSqlite() ? "TEXT" : "DATE";
                case TIME -> isSqlite() ? "TEXT" : "TIME";
                case DATE_TIME -> isSqlite() ? "TEXT" : "TIMESTAMP";
                case MOMENT -> isSqlite() ? "TEXT" : "TIMESTAMP WITH TIME ZONE";
            };
        }

        int code(Type type) {
            return switch (type) {
                case TEXT -> Types.VARCHAR;
                case WHOLE, DECIMAL -> Types.NUMERIC;
                case BOOLEAN -> Types.BOOLEAN;
                case DATE -> isSqlite() ? Types.VARCHAR : Types.DATE;
                case TIME -> isSqlite() ? Types.VARCHAR : Types.TIME;
                case DATE_TIME -> isSqlite() ? Types.VARCHAR : Types.TIMESTAMP;
                case MOMENT -> isSqlite() ? Types.VARCHAR : Types.TIMESTAMP_WITH_TIMEZONE;
            };
        }

        void bind(PreparedStatement insert, int at, Object value, String text) throws SQLException {
            if (value instanceof String || isSqlite() && value instanceof java.time.temporal.Temporal) {
                insert.setString(at, text);
            } else if (value instanceof BigInteger whole) {
                if (isSqlite() && whole.bitLength() < 64) {
                    insert.setLong(at, whole.longValue());
                } else {
                    insert.setBigDecimal(at, new BigDecimal(whole));
                }
            } else if (value instanceof BigDecimal decimal) {
                if (isSqlite()) {
                    // it keeps a text that reads as a number as one, without going through a double first
                    insert.setString(at, decimal.toPlainString());
                } else {
                    insert.setBigDecimal(at, decimal);
                }
            } else {
                insert.setObject(at, value);
            }
        }
    }
}
