package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Header;
import dev.mockbell.file.UserFolders;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.AnswerHead;
import dev.mockbell.mock.AskedLogin;
import dev.mockbell.mock.Conduct;
import dev.mockbell.mock.MemoryStep;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.MockLimits;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockTls;
import dev.mockbell.mock.Pause;
import dev.mockbell.mock.RequestRules;
import dev.mockbell.mock.Times;
import dev.mockbell.mock.Trouble;
import dev.mockbell.mock.Turns;
import dev.mockbell.mock.ValueChange;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapFault;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Mocks in their files. */
class MockFileTest {
    private static final Path SCHEMAS = Path.of("..", "docs", "schemas");

    @TempDir
    Path folder;

    private final ProjectStore store = new ProjectStore();
    private Path project;

    @BeforeEach
    void create() {
        project = folder.resolve("project");
        store.create(project, "Northfell Huts");
    }

    private MockPlan kept(MockPlan plan) {
        store.saveMock(project, plan);
        return store.open(project).mock("stay").orElseThrow();
    }

    private static MockPlan full() {
        List<MockAnswer> answers = new ArrayList<>();
        List<Pause> pauses = List.of(
                new Pause.Fixed(7), new Pause.Between(20, 60), new Pause.Normal(100, 25), new Pause.Exponential(80));
        for (Pause pause : pauses) {
            answers.add(MockAnswer.message("$hits = " + answers.size(), "p" + answers.size(), "<a/>")
                    .with(pause));
        }
        for (Trouble.Kind kind : Trouble.Kind.values()) {
            answers.add(MockAnswer.message("//x", kind.code(), "<b/>").with(Trouble.of(kind)));
        }
        answers.add(new MockAnswer(
                        "", "fault", new AnswerContent.Fault("No {//hutId}", "<d/>").withCode(SoapFault.Code.SENDER))
                .with(new Turns(Times.parse("1, 3-5, 9-"), Turns.Chosen.AT_RANDOM, 4, "ann", true)));
        answers.add(new MockAnswer("1", "back", new AnswerContent.RequestBack())
                .with(Turns.ALWAYS.with(Turns.Chosen.IN_TURN)));
        answers.add(new MockAnswer("2", "file", new AnswerContent.FileBody("parts/a.bin", "image/png")));
        answers.add(new MockAnswer("3", "none", new AnswerContent.Nothing())
                .with(new AnswerHead(
                        503,
                        List.of(new Header("Retry-After", "{1 + 1}")),
                        "<t:t xmlns:t=\"urn:t\"/>",
                        List.of(new AnswerHead.AnswerPart("a@b", "parts/a.bin", "image/png")))));
        answers.add(new MockAnswer(
                "4",
                "live",
                new AnswerContent.PassOn(
                        "http://127.0.0.1:9/x",
                        true,
                        List.of(new ValueChange("//a", "{1}")),
                        List.of(new ValueChange("//b/@c", "d")))));
        answers.add(MockAnswer.otherwise("all", "<all/>")
                .withAfter(List.of(
                        new MemoryStep.Remember("stays", "$answer//code", "$request"),
                        new MemoryStep.Remember("left", "", "$left - 1"),
                        new MemoryStep.Forget("stays", "//code"),
                        new MemoryStep.Forget("cart", ""))));
        Conduct conduct = new Conduct(
                Map.of("left", "30"),
                Set.of("cart"),
                "$http?x-client",
                42,
                Set.of("Tell"),
                Map.of("StaySoap11", "/v2", "StayQueue", "jms:queue:stay?jndiURL=tcp://127.0.0.1:61616"),
                true,
                new RequestRules(
                        false,
                        true,
                        false,
                        true,
                        new AskedLogin(AskedLogin.Way.TOKEN_DIGEST, "guide", "{$secret:pw}", true, "trust/a.pem")),
                new MockLimits(1_000, 20, 30, 40, 50, 5_000, Duration.ofMillis(600), Duration.ofMillis(7_000)),
                new MockTls(true, "keys/a.p12", "{$secret:k}", true, "trust/b.pem"),
                12);
        return new MockPlan("stay", "127.0.0.1", 8_480, Map.of("Book", answers), conduct);
    }

    @Test
    void everyKindOfAnswerAndConductComesBackAsItWas() {
        MockPlan full = full();
        assertThat(kept(full)).isEqualTo(full);
        assertThat(StrictSchemas.flaws(project, SCHEMAS)).isEmpty();
    }

    @Test
    void whatIsAsUsualIsNotWritten() throws Exception {
        MockPlan plain =
                MockPlan.sampling("stay", 8_480).withAnswers("Book", List.of(MockAnswer.otherwise("a", "<a/>")));
        assertThat(kept(plain)).isEqualTo(plain);
        assertThat(Files.readString(project.resolve("mocks/stay.yaml"))).isEqualTo("""
                        format: 1
                        host: 127.0.0.1
                        port: 8480
                        answers:
                          Book:
                            - title: a
                              body: book-a.xml
                        """);
    }

    @Test
    void aFileWithWhatCannotBeIsLeftAloneAndSaysWhere() throws Exception {
        kept(full());
        Path file = project.resolve("mocks/stay.yaml");
        for (String wrong :
                List.of("times: 4to5", "choose: sometimes", "status: 9", "weight: 0", "trouble: {kind: rain}")) {
            Files.writeString(file, "format: 1\nanswers:\n  Book:\n    - title: a\n      " + wrong + "\n");
            Project read = store.open(project);
            assertThat(read.mock("stay")).as(wrong).isEmpty();
            assertThat(read.troubles().toString()).as(wrong).contains("stay.yaml");
            assertThat(Files.readString(file)).contains(wrong);
        }
    }

    @Test
    void keysAreOfThisMachineAndSecretsComeFromIt() throws Exception {
        UserFolders user = new UserFolders(folder.resolve("config"), folder.resolve("state"), folder.resolve("cache"));
        Secrets secrets = Secrets.ofUser(user, Map.of("MOCKBELL_SECRET_PW", "granite-17"));
        LocalKeys keys = new LocalKeys(
                user, LocalProjects.ofUser(user), Optional.of(project), "Northfell", secrets, Clock.systemUTC());
        assertThat(keys.tls(MockTls.MADE, "127.0.0.1").asksClients()).isFalse();
        assertThat(keys.authority().pem()).isEqualTo(keys.authority().pem());
        Path kept;
        try (var files = Files.list(folder.resolve("config/authorities"))) {
            kept = files.findFirst().orElseThrow();
        }
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(kept)))
                .isEqualTo("rw-------");
        assertThat(keys.secret("a {$secret:pw} b")).isEqualTo("a granite-17 b");
        assertThat(keys.secret("plain")).isEqualTo("plain");
        assertThatThrownBy(() -> keys.secret("{$secret:nobody}"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("MOCKBELL_SECRET_NOBODY");
        assertThatThrownBy(() -> keys.tls(new MockTls(true, "../../key.p12", "", false, ""), "127.0.0.1"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("leads out");
    }
}
