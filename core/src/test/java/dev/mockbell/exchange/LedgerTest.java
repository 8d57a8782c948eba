package dev.mockbell.exchange;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage.Header;
import dev.mockbell.problem.Problem;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LedgerTest {
    @TempDir
    Path folder;

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static Exchange exchange(Way way, String operation, Outcome outcome, String body) {
        HttpMessage request = new HttpMessage(
                "POST /s HTTP/1.1", List.of(new Header("Host", "h")), bytes(body), bytes("raw " + body));
        HttpMessage response = new HttpMessage(
                "HTTP/1.1 200 OK",
                List.of(new Header("A", "b")),
                bytes("<r/>"),
                bytes("HTTP/1.1 200 OK\r\nA: b\r\n\r\n<r/>"));
        return new Exchange(
                0,
                Instant.parse("2026-11-23T08:00:00.123456Z"),
                way,
                "stay",
                operation,
                "http://h/s",
                "a case",
                request,
                Optional.of(response),
                new Timing(1, 2, 3, 4),
                outcome,
                outcome == Outcome.FINE ? "" : "why");
    }

    @Test
    void anExchangeComesBackAsItWentInAlsoAfterClosing() {
        Exchange kept;
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            kept = ledger.add(exchange(Way.CALLED, "Book", Outcome.FAULT, "<a/>"));
        }
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            Exchange read = ledger.get(kept.id()).orElseThrow();
            assertThat(read).usingRecursiveComparison().isEqualTo(kept);
            assertThat(ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""))
                            .id())
                    .isEqualTo(kept.id() + 1);
        }
    }

    @Test
    void filtersPickWhatTheySay() {
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, "<hut>Skarn</hut>"));
            ledger.add(exchange(Way.ANSWERED, "Book", Outcome.FAULT, "<hut>Kettle</hut>"));
            ledger.add(exchange(Way.CALLED, "Tell", Outcome.FAILED, "<hut>Wolfgill</hut>"));
            ledger.settle();
            assertThat(ledger.list(LedgerFilter.ALL, 10))
                    .extracting(Listing::id)
                    .containsExactly(3L, 2L, 1L);
            assertThat(ledger.list(LedgerFilter.ALL.withWay(Way.ANSWERED), 10))
                    .extracting(Listing::id)
                    .containsExactly(2L);
            assertThat(ledger.list(LedgerFilter.ALL.withOperation("Tell"), 10))
                    .extracting(Listing::id)
                    .containsExactly(3L);
            assertThat(ledger.list(LedgerFilter.ALL.withOutcome(Outcome.FINE), 10))
                    .extracting(Listing::id)
                    .containsExactly(1L);
            assertThat(ledger.list(LedgerFilter.ALL.withText("kettle"), 10))
                    .extracting(Listing::id)
                    .containsExactly(2L);
            assertThat(ledger.list(LedgerFilter.ALL.withText("%"), 10)).isEmpty();
            assertThat(ledger.list(LedgerFilter.ALL.between(Instant.parse("2026-11-24T00:00:00Z"), null), 10))
                    .isEmpty();
            assertThat(ledger.list(LedgerFilter.ALL.withSlowerThan(11), 10)).isEmpty();
            assertThat(ledger.list(LedgerFilter.ALL, 2)).hasSize(2);
        }
    }

    @Test
    void listenersHearInOrderAndOneThatFailsHurtsNobody() {
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            List<Long> heard = new CopyOnWriteArrayList<>();
            ledger.listen(l -> {
                throw new IllegalStateException("bad listener");
            });
            ledger.listen(l -> heard.add(l.id()));
            ledger.add(exchange(Way.CALLED, "A", Outcome.FINE, ""));
            assertThat(ledger.offer(exchange(Way.CALLED, "B", Outcome.FINE, "")))
                    .isTrue();
            ledger.settle();
            assertThat(heard).containsExactly(1L, 2L);
        }
    }

    @Test
    void aFileThatIsNoLedgerIsLeftAlone() throws Exception {
        Path file = Files.writeString(
                folder.resolve("l.db"), "this is my diary, not a database, and it is long enough to be sure");
        assertThatThrownBy(() -> Ledger.open(file))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("cannot be opened");
        assertThat(file).hasContent("this is my diary, not a database, and it is long enough to be sure");
    }

    @Test
    void severalProgramsWriteToOneFileAndNothingIsLost() throws Exception {
        int each = 400;
        Path file = folder.resolve("l.db");
        try (Ledger one = Ledger.open(file);
                Ledger two = Ledger.open(file)) {
            Set<Long> numbers = ConcurrentHashMap.newKeySet();
            List<Long> heardByOne = new CopyOnWriteArrayList<>();
            one.listen(l -> heardByOne.add(l.id()));
            List<Thread> threads = new ArrayList<>();
            for (Ledger ledger : List.of(one, one, two, two)) {
                Thread thread = new Thread(() -> {
                    for (int i = 0; i < each; i++) {
                        numbers.add(ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, "<a/>"))
                                .id());
                    }
                });
                thread.start();
                threads.add(thread);
            }
            for (Thread thread : threads) {
                thread.join();
            }
            assertThat(numbers).hasSize(4 * each).doesNotContain(0L);
            assertThat(one.list(LedgerFilter.ALL, 10 * each))
                    .extracting(Listing::id)
                    .containsExactlyInAnyOrderElementsOf(numbers);
            assertThat(one.lost() + two.lost()).isZero();
            for (int i = 0; i < 200 && heardByOne.size() < 4 * each; i++) {
                Thread.sleep(50);
            }
            assertThat(heardByOne)
                    .as("what the other wrote is told too, in order")
                    .hasSize(4 * each)
                    .isSorted();
        }
    }

    @Test
    void aFileOfTheFirstVersionIsBroughtForward() throws Exception {
        Path file = folder.resolve("l.db");
        try (Ledger ledger = Ledger.open(file)) {
            for (int i = 0; i < 3; i++) {
                ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, "<a/>"));
            }
        }
        statement(file, "DROP TABLE number", "PRAGMA user_version=0");
        try (Ledger ledger = Ledger.open(file)) {
            assertThat(ledger.list(LedgerFilter.ALL, 10)).hasSize(3);
            assertThat(ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""))
                            .id())
                    .isEqualTo(4);
        }
    }

    @Test
    void aNumberIsNeverGivenTwiceAlsoWhenTheNewestAreGone() throws Exception {
        Path file = folder.resolve("l.db");
        try (Ledger ledger = Ledger.open(file)) {
            ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""));
            ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""));
        }
        statement(file, "DELETE FROM exchange");
        try (Ledger ledger = Ledger.open(file)) {
            assertThat(ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""))
                            .id())
                    .isEqualTo(3);
        }
    }

    @Test
    void aLedgerOfANewerProgramIsRefusedAndLeftAlone() throws Exception {
        Path file = folder.resolve("l.db");
        Ledger.open(file).close();
        statement(file, "PRAGMA user_version=99");
        assertThatThrownBy(() -> Ledger.open(file))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("version 99")
                .hasMessageContaining("newer");
    }

    @Test
    void nobodyElseMayReadIt() throws Exception {
        Path file = folder.resolve("own/l.db");
        try (Ledger ledger = Ledger.open(file)) {
            ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""));
            for (String name : List.of("l.db", "l.db-wal", "l.db-shm")) {
                assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(file.resolveSibling(name))))
                        .as(name)
                        .isEqualTo("rw-------");
            }
        }
    }

    private static void statement(Path file, String... sql) throws SQLException {
        try (Connection c = DriverManager.getConnection("jdbc:sqlite:" + file);
                Statement s = c.createStatement()) {
            for (String one : sql) {
                s.execute(one);
            }
        }
    }
}
