package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Header;
import dev.mockbell.mock.AnswerHead.AnswerPart;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Base64;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** When an answer is given, and what it says. */
@Timeout(60)
class AnswerKindsTest {
    private final MockUnderTest mock = new MockUnderTest();
    private final String two = MockUnderTest.book("NF-07", 2);

    @AfterEach
    void close() {
        mock.close();
    }

    private static MockAnswer says(String text) {
        return MockAnswer.otherwise(text, "<said>" + text + "</said>");
    }

    private String said(String... headers) {
        return MockUnderTest.value(mock.call(two, headers), "said");
    }

    private static String basic(String user) {
        return "Basic " + Base64.getEncoder().encodeToString((user + ":secret").getBytes(StandardCharsets.UTF_8));
    }

    @Test
    void theNthTimeIsCountedAmongTheRequestsThatMeetTheCondition() {
        mock.answering(
                says("full").withWhen("//*:nights = 2").with(Turns.ALWAYS.with(Times.parse("2-3"))),
                says("gone").with(Turns.ALWAYS.with(Times.parse("5-"))),
                says("fine"));
        assertThat(said()).isEqualTo("fine");
        assertThat(MockUnderTest.value(mock.call(MockUnderTest.book("NF-07", 9)), "said"))
                .isEqualTo("fine");
        assertThat(List.of(said(), said(), said(), said())).containsExactly("full", "full", "gone", "gone");
    }

    @Test
    void whichTimesAreReadAndWrittenAlike() {
        assertThat(Times.parse(" 1, 3-5 ,8- ").toString()).isEqualTo("1, 3-5, 8-");
        assertThat(Times.parse("2 – 4").has(3)).isTrue();
        assertThat(Times.parse("2-4").has(5)).isFalse();
        assertThat(Times.parse("").has(1_000_000)).isTrue();
        for (String wrong : List.of("0", "4-2", "a", "1,,2", "-3", "1-2-3")) {
            assertThatThrownBy(() -> Times.parse(wrong)).as(wrong).isInstanceOf(Problem.class);
        }
    }

    @Test
    void neighboursTakeTurnsAmongThoseWhoseConditionHolds() {
        Turns turns = Turns.ALWAYS.with(Turns.Chosen.IN_TURN);
        mock.answering(
                says("a").with(turns),
                says("b").with(turns).withWhen("//*:nights > 5"),
                says("c").with(turns),
                says("never"));
        assertThat(List.of(said(), said(), said())).containsExactly("a", "c", "a");
        assertThat(MockUnderTest.value(mock.call(MockUnderTest.book("NF-07", 9)), "said"))
                .isEqualTo("b");
        assertThat(said()).isEqualTo("c");
    }

    @Test
    void chanceGoesByWeightAndIsTheSameForTheSameSeed() {
        Turns random = Turns.ALWAYS.with(Turns.Chosen.AT_RANDOM);
        MockPlan plan = MockPlan.sampling("stay", 0)
                .withAnswers(
                        "Book",
                        List.of(
                                says("often").with(random.weighing(3)),
                                says("seldom").with(random)))
                .with(Conduct.USUAL.withSeed(42));
        StringBuilder first = new StringBuilder();
        mock.start(plan, null);
        Map<String, Integer> counts = new HashMap<>();
        for (int i = 0; i < 200; i++) {
            String said = said();
            first.append(said.charAt(0));
            counts.merge(said, 1, Integer::sum);
        }
        assertThat(counts.get("often")).isBetween(125, 175);
        mock.host.close();
        mock.start(plan, null);
        StringBuilder second = new StringBuilder();
        for (int i = 0; i < 200; i++) {
            second.append(said().charAt(0));
        }
        assertThat(second.toString()).isEqualTo(first.toString());
    }

    @Test
    void anAnswerMayBeForOneCallerAndCountEachAlone() {
        mock.answering(
                says("for ann").with(Turns.ALWAYS.of("ann")),
                says("first").with(Turns.ALWAYS.with(Times.parse("1")).each(true)),
                MockAnswer.otherwise("else", "<said>{$caller}</said>"));
        assertThat(said("Authorization", basic("ann"))).isEqualTo("for ann");
        assertThat(said("Authorization", basic("bo"))).isEqualTo("first");
        assertThat(said("Authorization", basic("cy"))).isEqualTo("first");
        assertThat(said("Authorization", basic("bo"))).isEqualTo("bo");
        assertThat(said()).isEqualTo("first");
        assertThat(said()).isEqualTo("127.0.0.1");
    }

    @Test
    void whoCallsMayBeToldByTheMocksOwnExpression() {
        mock.start(
                MockPlan.sampling("stay", 0)
                        .withAnswers("Book", List.of(MockAnswer.otherwise("who", "<said>{$caller}</said>")))
                        .with(Conduct.USUAL.knowingCallersBy("upper-case(//*:guest[1]/*:name)")),
                null);
        assertThat(said()).isEqualTo("INES OKAFOR");
    }

    @Test
    void elementsAreRepeatedForEachOfTheRequestsAndLeftOutByACondition() {
        mock.answering(MockAnswer.otherwise(
                "list",
                "<list><?for $g in //*:guest?><guest no=\"{$position}\">{$g/*:name}</guest><?end?>"
                        + "<?if //*:nights > 5?><long/><?end?></list>"));
        assertThat(mock.call(two).body())
                .contains("<guest no=\"1\">Ines Okafor</guest><guest no=\"2\">Tor Lund</guest></list>");
        assertThat(mock.call(MockUnderTest.book("NF-07", 6)).body()).contains("<long/></list>");
    }

    @Test
    void anInstructionWithoutAnEndIsToldAndNotServed() {
        mock.answering(MockAnswer.otherwise("list", "<list><?for $g in //*:guest?></list>"));
        HttpResponse<String> answer = mock.call(two);
        assertThat(answer.statusCode()).isEqualTo(500);
        assertThat(answer.body()).contains("has no end");
    }

    @Test
    void whatWouldBeRepeatedWithoutEndIsRefused() {
        String nested = "<?for $a in 1 to 2000?><?for $b in 1 to 2000?><?end?><?end?>";
        mock.answering(MockAnswer.otherwise("deep", "<list>" + nested + "</list>"));
        assertThat(mock.call(two).body()).contains("more than 1000000 times");
        mock.host.replace(mock.host
                .plan()
                .withAnswers(
                        "Book",
                        List.of(MockAnswer.otherwise(
                                "many", "<list><?for $a in 1 to 5000?><i>{$a}</i><?end?></list>"))));
        assertThat(mock.call(two).body()).contains("<i>5000</i>");
    }

    @Test
    void valuesAreLookedUpInATableByTheirKey(@TempDir Path folder) throws Exception {
        Files.createDirectories(folder.resolve("mocks/stay"));
        Files.writeString(
                folder.resolve("mocks/stay/huts.csv"), "hutId;name;bunks\nNF-07;Skarn;12\nNF-11;\"Øvre; Tind\";8\n");
        mock.start(
                MockPlan.sampling("stay", 0)
                        .withAnswers(
                                "Book",
                                List.of(
                                        MockAnswer.otherwise(
                                                "row",
                                                "<said>{(bell:look-up('huts.csv', 'hutId', //*:hutId)?name, 'none')[1]}</said>"))),
                folder);
        assertThat(said()).isEqualTo("Skarn");
        assertThat(MockUnderTest.value(mock.call(MockUnderTest.book("NF-11", 1)), "said"))
                .isEqualTo("Øvre; Tind");
        assertThat(MockUnderTest.value(mock.call(MockUnderTest.book("NF-99", 1)), "said"))
                .isEqualTo("none");
    }

    @Test
    void aTableIsNotLookedForOutsideTheProject(@TempDir Path folder) throws Exception {
        Path project = Files.createDirectory(folder.resolve("project"));
        Files.writeString(folder.resolve("secret.csv"), "a,b\n1,2\n");
        mock.start(
                MockPlan.sampling("stay", 0)
                        .withAnswers(
                                "Book",
                                List.of(MockAnswer.otherwise(
                                        "row", "<said>{bell:look-up('../../../secret.csv', 'a', '1')?b}</said>"))),
                project);
        assertThat(mock.call(two).body()).contains("leads out of the folder");
    }

    @Test
    void theRequestItselfIsGivenBack() {
        mock.answering(new MockAnswer("", "back", new AnswerContent.RequestBack()));
        HttpResponse<String> answer = mock.call(two);
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.body()).contains(two.substring(0, 20)).contains("Tor Lund");
        assertThat(answer.headers().firstValue("Content-Type"))
                .hasValueSatisfying(t -> assertThat(t).startsWith("text/xml"));
    }

    @Test
    void aFileIsGivenWithItsType(@TempDir Path folder) throws Exception {
        Files.write(folder.resolve("page.html"), "<html/>".getBytes(StandardCharsets.UTF_8));
        mock.start(
                MockPlan.sampling("stay", 0)
                        .withAnswers(
                                "Book",
                                List.of(new MockAnswer(
                                        "", "page", new AnswerContent.FileBody("page.html", "text/html")))),
                folder);
        HttpResponse<String> answer = mock.call(two);
        assertThat(answer.body()).isEqualTo("<html/>");
        assertThat(answer.headers().firstValue("Content-Type")).hasValue("text/html");
    }

    @Test
    void statusFieldsAndBlocksAreAsGiven() {
        AnswerHead head = AnswerHead.USUAL
                .withStatus(207)
                .withFields(List.of(
                        new Header("X-Hut", "{//*:hutId}\r\nX-Evil: 1"),
                        new Header("Content-Length", "3"),
                        new Header("Retry-After", "7")))
                .withBlocks("<t:trace xmlns:t=\"urn:t\">{$hits}</t:trace>");
        mock.answering(says("x").with(head));
        HttpResponse<String> answer = mock.call(SoapVersion.V11, two);
        assertThat(answer.statusCode()).isEqualTo(207);
        assertThat(answer.headers().firstValue("X-Hut")).hasValue("NF-07 X-Evil: 1");
        assertThat(answer.headers().firstValue("X-Evil")).isEmpty();
        assertThat(answer.headers().firstValue("Retry-After")).hasValue("7");
        assertThat(answer.body()).contains("<t:trace xmlns:t=\"urn:t\">1</t:trace>");
        assertThat(MockUnderTest.value(answer, "said")).isEqualTo("x");
    }

    @Test
    void nothingIsNoBodyWithAStatus() {
        mock.answering(new MockAnswer("", "none", new AnswerContent.Nothing()).with(AnswerHead.USUAL.withStatus(503)));
        HttpResponse<String> answer = mock.call(two);
        assertThat(answer.statusCode()).isEqualTo(503);
        assertThat(answer.body()).isEmpty();
        assertThat(answer.headers().firstValue("Content-Type")).isEmpty();
    }

    @Test
    void aFaultOfTheSenderHasItsCodeAndStatus() {
        AnswerContent.Fault fault =
                new AnswerContent.Fault("No {//*:hutId} & co", "<d/>").withCode(SoapFault.Code.SENDER);
        mock.answering(new MockAnswer("", "f", fault));
        HttpResponse<String> in11 = mock.call(two);
        assertThat(in11.statusCode()).isEqualTo(500);
        assertThat(in11.body()).contains(":Client</faultcode>").contains("No NF-07 &amp; co");
    }

    @Test
    void filesGoBesideTheEnvelopeAndAsXopWhereItIncludesThem(@TempDir Path folder) throws Exception {
        Files.write(folder.resolve("map.png"), new byte[] {1, 2, 3});
        AnswerHead head = AnswerHead.USUAL.withParts(List.of(new AnswerPart("map@huts", "map.png", "")));
        MockPlan plan = MockPlan.sampling("stay", 0);
        mock.start(plan.withAnswers("Book", List.of(says("beside").with(head))), folder);
        HttpResponse<String> beside = mock.call(two);
        assertThat(beside.headers().firstValue("Content-Type"))
                .hasValueSatisfying(t -> assertThat(t).startsWith("multipart/related; type=\"text/xml\""));
        assertThat(beside.body()).contains("Content-ID: <map@huts>").contains("Content-Type: image/png");
        mock.host.replace(plan.withAnswers(
                "Book",
                List.of(MockAnswer.otherwise(
                                "xop",
                                "<said><x:Include xmlns:x=\"http://www.w3.org/2004/08/xop/include\" href=\"cid:map@huts\"/></said>")
                        .with(head))));
        assertThat(mock.call(two).headers().firstValue("Content-Type"))
                .hasValueSatisfying(t -> assertThat(t).contains("type=\"application/xop+xml\""));
    }

    @Test
    void whatCannotBeGivenAnyMoreIsServedByItsLastGoodVersion() {
        MockPlan plan = MockPlan.sampling("stay", 0);
        mock.start(plan.withAnswers("Book", List.of(MockAnswer.otherwise("a", "<said>{1 + 1}</said>"))), null);
        assertThat(said()).isEqualTo("2");
        mock.host.replace(plan.withAnswers("Book", List.of(MockAnswer.otherwise("a", "<said>{1 + }</said>"))));
        assertThat(said()).isEqualTo("2");
        mock.host.replace(plan.withAnswers("Book", List.of(MockAnswer.otherwise("a", "<said>{1 + 2}</said>"))));
        assertThat(said()).isEqualTo("3");
    }

    @Test
    void anAnswerRelatesToTheRequestThatWsAddressingNames() {
        for (String namespace :
                List.of("http://www.w3.org/2005/08/addressing", "http://schemas.xmlsoap.org/ws/2004/08/addressing")) {
            String id = "<a:MessageID xmlns:a='" + namespace + "'> urn:uuid:1&amp;2 </a:MessageID>";
            mock.answering(says("x"));
            String plain = mock.post(SoapVersion.V11, two, id).body();
            assertThat(plain)
                    .contains("<wsa:RelatesTo xmlns:wsa=\"" + namespace + "\">urn:uuid:1&amp;2</wsa:RelatesTo>");
            SoapMessage read = SoapMessage.parse(plain.getBytes(StandardCharsets.UTF_8), "answer");
            assertThat(read.headers())
                    .extracting(h -> h.getLocalName())
                    .contains("Action", "MessageID", "To", "RelatesTo");
            assertThat(read.payloadText()).contains(">x</said>");
            mock.host.close();
            mock.answering(says("{count($headers)}").with(AnswerHead.USUAL.withBlocks("<t:own xmlns:t='urn:t'/>")));
            String looked = mock.post(SoapVersion.V11, two, id).body();
            assertThat(looked).contains("RelatesTo").contains("<t:own").contains("<said>1</said>");
            assertThat(mock.call(two).body()).doesNotContain("RelatesTo");
            mock.host.close();
        }
        mock.answering(says("x"));
    }

    @Test
    void pausesStayWithinWhatTheySay() {
        java.util.SplittableRandom random = new java.util.SplittableRandom(3);
        TreeSet<Long> seen = new TreeSet<>();
        double sum = 0;
        for (int i = 0; i < 20_000; i++) {
            seen.add(new Pause.Between(20, 60).millis(random));
            sum += new Pause.Exponential(100).millis(random);
            assertThat(new Pause.Normal(50, 200).millis(random)).isBetween(0L, Pause.LONGEST_MILLIS);
        }
        assertThat(seen.first()).isEqualTo(20);
        assertThat(seen.last()).isEqualTo(60);
        assertThat(sum / 20_000).isBetween(95.0, 105.0);
        assertThat(new Pause.Between(60, 20)).isEqualTo(new Pause.Between(60, 60));
    }
}
