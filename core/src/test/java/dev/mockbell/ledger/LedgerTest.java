package dev.mockbell.ledger;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Timing;
import dev.mockbell.problem.Problem;
import java.io.InputStream;
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
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class LedgerTest {
    @TempDir
    Path folder;

    private static byte[] bytes(String text) {
        return text.getBytes(StandardCharsets.UTF_8);
    }

    private static Exchange exchange(Way way, String operation, Outcome outcome, String body) {
        HttpMessage request = new HttpMessage(
                "POST /s HTTP/1.1",
                List.of(new Header("Host", "h")),
                Content.of(bytes(body)),
                Content.of(bytes("raw " + body)));
        HttpMessage response = new HttpMessage(
                "HTTP/1.1 200 OK",
                List.of(new Header("A", "b")),
                Content.of(bytes("<r/>")),
                Content.of(bytes("HTTP/1.1 200 OK\r\nA: b\r\n\r\n<r/>")));
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
                new Timing(1, 1, 1, 2, 2, 3),
                outcome,
                outcome == Outcome.FINE ? "" : "why");
    }

    private static Exchange of(HttpMessage request, HttpMessage response) {
        Exchange e = exchange(Way.CALLED, "Book", Outcome.FINE, "");
        return new Exchange(
                0,
                e.started(),
                e.way(),
                e.contract(),
                e.operation(),
                e.endpoint(),
                e.origin(),
                request,
                Optional.ofNullable(response),
                e.timing(),
                e.outcome(),
                e.note());
    }

    @Test
    void anExchangeComesBackAsItWentInAlsoAfterClosing() {
        Exchange kept;
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            kept = ledger.add(exchange(Way.CALLED, "Book", Outcome.FAULT, "<a/>"));
        }
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            Exchange read = ledger.get(kept.id()).orElseThrow();
            assertThat(read)
                    .usingRecursiveComparison()
                    .withEqualsForType(Content::same, Content.class)
                    .isEqualTo(kept);
            assertThat(ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""))
                            .id())
                    .isEqualTo(kept.id() + 1);
        }
    }

    @Test
    void theBytesOfAnAnswerWithoutAHeadComeBack() {
        HttpMessage request = new HttpMessage("POST /s HTTP/1.1", List.of(), Content.NONE, Content.NONE);
        HttpMessage broken = new HttpMessage("", List.of(), Content.NONE, Content.of(bytes("220 ready\r\n")));
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            long id = ledger.add(of(request, broken)).id();
            Message read = ledger.get(id).orElseThrow().response().orElseThrow();
            assertThat(read.status()).isZero();
            assertThat(read.headers()).isEmpty();
            assertThat(read.wire().text(StandardCharsets.UTF_8)).isEqualTo("220 ready\r\n");
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
            assertThat(ledger.list(LedgerFilter.typed("took:>11ns"), 10)).isEmpty();
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
            assertThat(one.state().lost() + two.state().lost()).isZero();
            for (int i = 0; i < 200 && heardByOne.size() < 4 * each; i++) {
                Thread.sleep(50);
            }
            assertThat(heardByOne)
                    .as("what the other wrote is told too, in order")
                    .hasSize(4 * each)
                    .isSorted();
        }
    }

    /** What programs before this one made, with three exchanges. */
    private static void older(Path file, int version) throws SQLException {
        statement(file, """
                CREATE TABLE exchange (
                  id INTEGER PRIMARY KEY, started INTEGER NOT NULL, way TEXT NOT NULL, contract TEXT NOT NULL,
                  operation TEXT NOT NULL, endpoint TEXT NOT NULL, origin TEXT NOT NULL, status INTEGER NOT NULL,
                  nanos INTEGER NOT NULL, sent INTEGER NOT NULL, received INTEGER NOT NULL, outcome TEXT NOT NULL,
                  note TEXT NOT NULL, connect INTEGER, send INTEGER, await INTEGER, receive INTEGER,
                  request_head TEXT NOT NULL, request_body BLOB NOT NULL, request_wire BLOB,
                  response_head TEXT, response_body BLOB, response_wire BLOB)""", "CREATE INDEX exchange_started ON exchange(started)");
        for (int i = 1; i <= 3; i++) {
            statement(
                    file,
                    "INSERT INTO exchange VALUES (" + i
                            + ", 1700000000000000, 'ANSWERED', 'stay', 'Book', 'http://h/s',"
                            + " 'answer 1', 200, 3000, 4, 0, 'FAULT', 'why', 1, 1, 1, 0, 'POST /s HTTP/1.1',"
                            + " CAST('<a/>' AS BLOB), x'0102', NULL, NULL, NULL)");
        }
        if (version > 0) {
            statement(file, "CREATE TABLE number (last INTEGER NOT NULL)", "INSERT INTO number VALUES (3)");
        }
        if (version > 1) {
            statement(file, "ALTER TABLE exchange ADD COLUMN kind TEXT NOT NULL DEFAULT 'http'", """
                    CREATE TABLE piece (
                      exchange INTEGER NOT NULL, face INTEGER NOT NULL, number INTEGER NOT NULL, seam BLOB NOT NULL,
                      bytes BLOB NOT NULL, PRIMARY KEY (exchange, face, number))""");
        }
        if (version > 2) {
            statement(file, "ALTER TABLE exchange ADD COLUMN secured TEXT");
        }
        if (version > 3) {
            statement(
                    file,
                    "ALTER TABLE exchange ADD COLUMN name INTEGER NOT NULL DEFAULT 0",
                    "ALTER TABLE exchange ADD COLUMN tls INTEGER NOT NULL DEFAULT 0");
        }
        statement(file, "PRAGMA user_version=" + version);
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 3, 4})
    void aFileOfAnOlderVersionIsBroughtForward(int version) throws Exception {
        Path file = folder.resolve("l.db");
        older(file, version);
        try (Ledger ledger = Ledger.open(file)) {
            assertThat(ledger.list(LedgerFilter.ALL, 10)).hasSize(3);
            Exchange read = ledger.get(2).orElseThrow();
            assertThat(read.request().text()).isEqualTo("<a/>");
            assertThat(read.request().wire().bytes()).containsExactly(1, 2);
            assertThat(read.response()).isEmpty();
            assertThat(read.way()).isEqualTo(Way.ANSWERED);
            assertThat(read.outcome()).isEqualTo(Outcome.FAULT);
            assertThat(read.origin() + read.note()).isEqualTo("answer 1why");
            assertThat(ledger.list(LedgerFilter.ALL.withText("<a/"), 10)).hasSize(3);
            assertThat(ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""))
                            .id())
                    .isEqualTo(4);
        }
    }

    @Test
    void aLargeContentOfAnOlderFileIsCarriedOver() throws Exception {
        Path file = folder.resolve("l.db");
        older(file, 4);
        statement(
                file,
                "UPDATE exchange SET request_body = zeroblob(" + Contents.SIZE + ") WHERE id = 2",
                "INSERT INTO piece VALUES (2, 0, 0, x'', CAST('the end' AS BLOB))");
        try (Ledger ledger = Ledger.open(file)) {
            Content body = ledger.get(2).orElseThrow().request().body();
            assertThat(body.size()).isEqualTo(Contents.SIZE + 7);
            assertThat(body.slice(Contents.SIZE, body.size()).bytes()).isEqualTo(bytes("the end"));
            assertThat(ledger.list(LedgerFilter.ALL.withText("the end"), 10))
                    .extracting(Listing::id)
                    .containsExactly(2L);
        }
    }

    @ParameterizedTest
    @ValueSource(
            ints = {Contents.SIZE - 1, Contents.SIZE, Contents.SIZE + 1, 3 * Contents.SIZE, 3 * Contents.SIZE + 77})
    void aLargeContentComesBackPieceByPiece(int size) throws Exception {
        byte[] body = new byte[size];
        new Random(size).nextBytes(body);
        Path file = folder.resolve("l.db");
        long id;
        try (Ledger ledger = Ledger.open(file)) {
            HttpMessage request =
                    new HttpMessage("POST /s HTTP/1.1", List.of(), Content.of(body), Content.of(new byte[] {1}));
            HttpMessage response =
                    new HttpMessage("HTTP/1.1 200 OK", List.of(), Content.of(bytes("<r/>")), Content.of(body));
            id = ledger.add(of(request, response)).id();
        }
        try (Ledger ledger = Ledger.open(file)) {
            Exchange read = ledger.get(id).orElseThrow();
            assertThat(read.request().body().bytes()).isEqualTo(body);
            assertThat(read.response().orElseThrow().wire().bytes()).isEqualTo(body);
            try (InputStream in = read.request().body().open(size / 2)) {
                assertThat(in.readAllBytes()).isEqualTo(Arrays.copyOfRange(body, size / 2, size));
            }
            assertThat(ledger.list(LedgerFilter.ALL, 1).get(0).sent()).isEqualTo(size);
        }
    }

    @ParameterizedTest
    @ValueSource(ints = {0, Contents.SIZE - 3, 2 * Contents.SIZE - 3, 2 * Contents.SIZE + 400, 3 * Contents.SIZE - 6})
    void aTextIsFoundWhereverItStandsInALargeBody(int place) {
        byte[] body = new byte[3 * Contents.SIZE];
        Arrays.fill(body, (byte) 'x');
        byte[] wanted = bytes("Skarn!");
        System.arraycopy(wanted, 0, body, place, wanted.length);
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            HttpMessage request = new HttpMessage("POST /s HTTP/1.1", List.of(), Content.of(body), Content.NONE);
            ledger.add(of(request, null));
            assertThat(ledger.list(LedgerFilter.ALL.withText("skarn!"), 5)).hasSize(1);
            assertThat(ledger.list(LedgerFilter.ALL.withText("skarn?"), 5)).isEmpty();
        }
    }

    @Test
    void theContentOfAnExchangeThatIsGoneSaysSo() throws Exception {
        Path file = folder.resolve("l.db");
        try (Ledger ledger = Ledger.open(file)) {
            Content large = Content.of(new byte[2 * Contents.SIZE]);
            HttpMessage request = new HttpMessage("POST /s HTTP/1.1", List.of(), large, Content.NONE);
            long id = ledger.add(of(request, null)).id();
            Exchange read = ledger.get(id).orElseThrow();
            statement(file, "DELETE FROM line", "DELETE FROM slice");
            assertThatThrownBy(() -> read.request().body().bytes())
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("on the ledger no more");
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"UPDATE line SET way = 77", "UPDATE line SET outcome = -1", "UPDATE detail SET kind = 'pigeon'"})
    void aRowThatOthersWroteIsRefusedInWords(String sql) throws Exception {
        Path file = folder.resolve("l.db");
        long id;
        try (Ledger ledger = Ledger.open(file)) {
            id = ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, "<a/>")).id();
        }
        statement(file, sql);
        try (Ledger ledger = Ledger.open(file)) {
            assertThatThrownBy(() -> ledger.get(id))
                    .isInstanceOf(Problem.class)
                    .hasMessageContaining("The ledger cannot be read")
                    .hasMessageContaining("not known");
        }
    }

    @Test
    void anExchangeWhoseBytesCannotBeReadTakesNoOtherAlong() throws Exception {
        Content broken = new Content() {
            @Override
            public long size() {
                return 3;
            }

            @Override
            public InputStream open(long from) throws java.io.IOException {
                throw new java.io.IOException("the disk is gone");
            }
        };
        Exchange bad = of(new HttpMessage("POST /s HTTP/1.1", List.of(), broken, Content.NONE), null);
        try (Ledger ledger = Ledger.open(folder.resolve("l.db"))) {
            for (int i = 0; i < 300; i++) {
                assertThat(ledger.offer(i == 100 ? bad : exchange(Way.CALLED, "Book", Outcome.FINE, "<a/>")))
                        .isTrue();
            }
            ledger.settle();
            assertThat(ledger.list(LedgerFilter.ALL, 1_000)).hasSize(299);
            assertThat(ledger.state().lost()).isEqualTo(1);
        }
    }

    @Test
    void contentsThatOthersWroteDoNoHarm() throws Exception {
        Path file = folder.resolve("l.db");
        long id;
        try (Ledger ledger = Ledger.open(file)) {
            id = ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, "<a/>")).id();
        }
        statement(
                file,
                "INSERT INTO slice SELECT request_body, 77, 0, x'01' FROM detail",
                "UPDATE content SET size = 4 + (SELECT max(size) FROM content), coding = 1 WHERE id ="
                        + " (SELECT request_wire FROM detail)");
        try (Ledger ledger = Ledger.open(file)) {
            assertThatThrownBy(() -> ledger.get(id)).isInstanceOf(Problem.class).hasMessageContaining("damaged");
        }
    }

    @Test
    void aNumberIsNeverGivenTwiceAlsoWhenTheNewestAreGone() throws Exception {
        Path file = folder.resolve("l.db");
        try (Ledger ledger = Ledger.open(file)) {
            ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""));
            ledger.add(exchange(Way.CALLED, "Book", Outcome.FINE, ""));
        }
        statement(file, "DELETE FROM line", "DELETE FROM detail");
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
