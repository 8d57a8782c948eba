package dev.mockbell.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.mockbell.problem.Problem;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Rows that go into a real server's table, where one is installed. */
class PostgresTest {
    private static Path data;
    private static Process server;
    private static String url;

    @BeforeAll
    static void start() throws Exception {
        Optional<Path> programs = programs();
        assumeTrue(programs.isPresent(), "no PostgreSQL is installed here");
        data = Files.createTempDirectory("pg");
        Files.setPosixFilePermissions(data, PosixFilePermissions.fromString("rwxrwxrwx"));
        Path files = data.resolve("files");
        run(programs.get(), "initdb", "-D", files.toString(), "-A", "trust", "-U", "hut", "--no-sync")
                .waitFor();
        for (int attempt = 1; !begun(programs.get(), files); attempt++) {
            // somebody else may have taken the port that was free a moment before
            assertThat(attempt).as(() -> said("postgres")).isLessThan(4);
        }
    }

    /** Starts it; false when it ended by itself. */
    private static boolean begun(Path programs, Path files) throws Exception {
        int port;
        try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            port = free.getLocalPort();
        }
        server = run(
                programs,
                "postgres",
                "-D",
                files.toString(),
                "-h",
                "127.0.0.1",
                "-p",
                "" + port,
                "-k",
                data.toString(),
                "-c",
                "fsync=off");
        url = "jdbc:postgresql://127.0.0.1:" + port + "/postgres";
        for (int i = 0; i < 600 && server.isAlive(); i++) {
            if (isUp()) {
                return true;
            }
            Thread.sleep(100);
        }
        server.destroyForcibly().waitFor();
        return false;
    }

    private static String said(String name) {
        try {
            return Files.readString(data.resolve(name + ".log"));
        } catch (IOException e) {
            return "it left no log";
        }
    }

    private static boolean isUp() {
        try (Connection connection = DriverManager.getConnection(url, "hut", "")) {
            return connection.isValid(1);
        } catch (SQLException notYet) {
            return false;
        }
    }

    private static Optional<Path> programs() throws IOException {
        Path all = Path.of("/usr/lib/postgresql");
        if (!Files.isDirectory(all)) {
            return Optional.empty();
        }
        try (Stream<Path> versions = Files.list(all)) {
            return versions.map(v -> v.resolve("bin"))
                    .filter(b -> Files.isExecutable(b.resolve("initdb")) && Files.isExecutable(b.resolve("postgres")))
                    .findFirst();
        }
    }

    /** It refuses to run as the user who may do everything. */
    private static Process run(Path programs, String name, String... arguments) throws IOException {
        List<String> command = new ArrayList<>();
        if ("root".equals(System.getProperty("user.name"))) {
            command.addAll(List.of("runuser", "-u", "postgres", "--"));
        }
        command.add(programs.resolve(name).toString());
        command.addAll(List.of(arguments));
        return new ProcessBuilder(command)
                .directory(data.toFile())
                .redirectErrorStream(true)
                .redirectOutput(data.resolve(name + ".log").toFile())
                .start();
    }

    @AfterAll
    static void stop() throws Exception {
        if (server != null) {
            server.destroy();
            server.waitFor(10, TimeUnit.SECONDS);
        }
    }

    private static DatabaseTable table(String name, boolean replaces) {
        return new DatabaseTable(url, name, replaces, Optional.of("hut"), "", Optional.empty());
    }

    private static String ask(String sql) throws SQLException {
        try (Connection connection = DriverManager.getConnection(url, "hut", "");
                ResultSet found = connection.createStatement().executeQuery(sql)) {
            found.next();
            return found.getString(1);
        }
    }

    @Test
    void theTableHasTheTypesOfItsColumns() throws SQLException {
        Table closures = TableTest.table(Shape.of("//closure"));
        assertThat(table("closures", false).write(closures)).isEqualTo(3);
        assertThat(ask("select string_agg(data_type, ' ' order by ordinal_position) from information_schema.columns"
                        + " where table_name = 'closures'"))
                .isEqualTo("numeric text date numeric numeric numeric date text");
        assertThat(ask("select sum(metres) from closures")).isEqualTo("2120.5");
        table("closures", true).write(closures);
        assertThat(ask("select count(*) from closures")).isEqualTo("3");
        assertThat(ask("select max(\"from\") from closures")).isEqualTo("2027-02-14");
    }

    @Test
    void aFailureOnTheWayChangesNothing() throws SQLException {
        Table closures = TableTest.table(Shape.of("//closure"));
        table("kept", false).write(closures);
        Shape wrong = closures.shape().change("trail", c -> c.withType(Type.DATE));
        assertThatThrownBy(() -> table("kept", true).write(TableTest.table(wrong)))
                .isInstanceOf(Problem.class);
        assertThat(ask("select count(*) from kept")).isEqualTo("3");
        assertThatThrownBy(() -> table("never", false).write(TableTest.table(wrong)))
                .isInstanceOf(Problem.class);
        assertThat(ask("select count(*) from information_schema.tables where table_name = 'never'"))
                .isEqualTo("0");
        assertThatThrownBy(() -> table("no_schema.t", false).write(closures))
                .hasMessageContaining("The database refuses")
                .hasMessageContaining("no_schema");
    }

    @Test
    void momentsAndTruthValuesArriveAsSuch() throws SQLException {
        String rows =
                "<l><r><open>true</open><at>2027-02-14T10:00:00+01:00</at><on>10:30:00</on><d>2027-02-14T09:00:00</d></r>"
                        + "<r><open>false</open><at>2027-02-14T10:00:00Z</at><on>11:30:00</on><d>2027-02-14T09:30:00</d></r></l>";
        Table table = Table.of(
                TableTest.read(rows),
                Shape.of("/l/r"),
                new dev.mockbell.expression.Expressions(),
                dev.mockbell.expression.Scope.EMPTY);
        table("moments", false).write(table);
        assertThat(ask("select count(*) from moments where open and at = '2027-02-14T09:00:00Z'"))
                .isEqualTo("1");
    }
}
