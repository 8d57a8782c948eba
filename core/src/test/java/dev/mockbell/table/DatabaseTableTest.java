package dev.mockbell.table;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Rows that go into a database of one file. */
class DatabaseTableTest {
    @TempDir
    private Path folder;

    private Path file() {
        return folder.resolve("trails.db");
    }

    private Object ask(String sql) throws SQLException {
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + file());
                ResultSet found = connection.createStatement().executeQuery(sql)) {
            found.next();
            return found.getObject(1);
        }
    }

    private static Table closures() {
        return TableTest.table(Shape.of("//closure"));
    }

    @Test
    void theTableIsMadeOfTheTypedColumnsAndRowsAreAddedOrReplaced() throws SQLException {
        assertThat(DatabaseTable.sqlite(file(), "closures", false).write(closures()))
                .isEqualTo(3);
        assertThat(ask("select typeof(metres) || typeof(grade) || typeof(\"from\") from closures where id = 7"))
                .isEqualTo("realintegertext");
        assertThat(ask("select count(*) from closures where until is null")).isEqualTo(2);
        DatabaseTable.sqlite(file(), "closures", false).write(closures());
        assertThat(ask("select count(*) from closures")).isEqualTo(6);
        DatabaseTable.sqlite(file(), "closures", true).write(closures());
        assertThat(ask("select count(*) from closures")).isEqualTo(3);
        assertThat(ask("select trail from closures where id = 8")).isEqualTo("Tarn, \"loop\"");
    }

    @Test
    void aFailureChangesNothing() throws SQLException {
        DatabaseTable.sqlite(file(), "closures", false).write(closures());
        Shape wrong = closures().shape().change("trail", c -> c.withType(Type.WHOLE));
        assertThatThrownBy(() -> DatabaseTable.sqlite(file(), "closures", true).write(TableTest.table(wrong)))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("“Skarn ridge” in row 1 is not of the type whole")
                .hasMessageContaining("Nothing was changed");
        Shape other = closures().shape().change("trail", c -> c.withName("no such column"));
        assertThatThrownBy(() -> DatabaseTable.sqlite(file(), "closures", true).write(TableTest.table(other)))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("The database refuses");
        assertThat(ask("select count(*) from closures")).isEqualTo(3);
        assertThatThrownBy(() -> DatabaseTable.sqlite(file(), "fresh", false).write(TableTest.table(wrong)))
                .isInstanceOf(Problem.class);
        assertThat(ask("select count(*) from sqlite_master where name = 'fresh'"))
                .isEqualTo(0);
    }

    @Test
    void namesThatAreNoneOfSqlAreQuoted() throws SQLException {
        Table odd = Table.of(
                TableTest.read("<l><row><select>1</select></row><row><select>2</select></row></l>"),
                Shape.of("/l/row"),
                new Expressions(),
                Scope.EMPTY);
        DatabaseTable.sqlite(file(), "drop \"all\"; --", false).write(odd);
        assertThat(ask("select sum(\"select\") from \"drop \"\"all\"\"; --\"")).isEqualTo(3);
    }

    @Test
    void whereNoDriverIsKnownThatIsTold() {
        DatabaseTable none = new DatabaseTable(
                "jdbc:nothing://h/db?password=granite-17", "t", false, Optional.empty(), "", Optional.empty());
        assertThatThrownBy(() -> none.write(closures()))
                .hasMessageContaining("No driver is known")
                .hasMessageContaining("Give the driver's file")
                .hasMessageNotContaining("granite");
        DatabaseTable missing = new DatabaseTable(
                "jdbc:nothing:x", "t", false, Optional.empty(), "", Optional.of(folder.resolve("none.jar")));
        assertThatThrownBy(() -> missing.write(closures())).hasMessageContaining("file is not there");
    }
}
