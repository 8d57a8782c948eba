package dev.mockbell.check;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.compare.Baseline;
import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Timing;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.message.MessageOutline;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What each kind of check makes of answers that meet it, that do not, and that are none. */
class CheckKindsTest {
    private static final String HUTS = """
            <e:Envelope xmlns:e="http://schemas.xmlsoap.org/soap/envelope/"><e:Body><h:Huts xmlns:h="urn:h" area="Skarn">
            <h:hut id="NF-01"><h:bunks>12</h:bunks><h:opens>2027-02-12T10:00:00Z</h:opens></h:hut>
            <h:hut id="NF-02"><h:bunks>8</h:bunks><h:opens>2027-02-12T11:00:00+01:00</h:opens></h:hut>
            <h:hut id="NF-03"><h:bunks>8</h:bunks></h:hut></h:Huts></e:Body></e:Envelope>""";
    private static final String PARTS = """
            --b\r
            Content-Type: text/xml\r
            \r
            %s\r
            --b\r
            Content-Type: image/png\r
            Content-ID: <cairn@huts>\r
            \r
            abc\r
            --b--\r
            """.replace("\\r\n", "\r\n");

    private final Expressions expressions = new Expressions();
    private final Checker checker = new Checker(expressions);

    private Answer answer(String body, Header... headers) {
        HttpMessage request = new HttpMessage("POST /s HTTP/1.1", List.of(), Content.NONE, Content.NONE);
        Exchange exchange = new Exchange(
                0,
                Instant.EPOCH,
                Exchange.Way.CALLED,
                "huts",
                "List",
                "http://h/s",
                "a case",
                request,
                Optional.ofNullable(body)
                        .map(b -> new HttpMessage(
                                "HTTP/1.1 200 OK",
                                List.of(headers),
                                Content.of(b.getBytes(StandardCharsets.UTF_8)),
                                Content.NONE)),
                new Timing(0, 0, 5_000_000, 0),
                body == null ? Outcome.FAILED : Outcome.FINE,
                body == null ? "nobody answers" : "");
        Contract stay = Contracts.stay();
        return Answer.of(
                exchange,
                MessageOutline.ofAnswer(
                        stay, stay.operation("Book", null).orElseThrow().operation()),
                expressions);
    }

    private CheckResult of(Check check, Answer answer) {
        Scope scope = Scope.EMPTY.with(Map.of("area", "Skarn"));
        return checker.check(List.of(check), answer, scope, Optional.empty()).get(0);
    }

    private void holds(Check check) {
        assertThat(of(check, answer(HUTS, new Header("Content-Type", "text/xml; charset=utf-8"))))
                .satisfies(r -> assertThat(r.sentence()).isEqualTo(check.title()));
    }

    private void fails(Check check, String finding) {
        assertThat(of(check, answer(HUTS, new Header("Content-Type", "text/xml; charset=utf-8"))))
                .satisfies(r -> assertThat(r.passed()).isFalse())
                .satisfies(r -> assertThat(r.finding()).contains(finding));
    }

    @ParameterizedTest
    @CsvSource({
        "12, '', true",
        "12.0, '', true",
        "12.4, 0.5, true",
        "12.6, 0.5, false",
        "1.2e1, '', true",
        "1e9999999999, '', false",
        "twelve, 1, false"
    })
    void aNumberMayBeOffByATolerance(String expected, String tolerance, boolean passed) {
        Check check = new Check.Value("//hut[1]/bunks", expected, tolerance);
        assertThat(of(check, answer(HUTS)).passed()).isEqualTo(passed);
    }

    @ParameterizedTest
    @CsvSource({
        "2027-02-12T11:00:00+01:00, '', true",
        "2027-02-12T10:00:00.000Z, '', true",
        "2027-02-12T10:00:00, '', true",
        "2027-02-12T11:00:00, '', false",
        "2027-02-12T10:03:00, PT5M, true",
        "2027-02-12T10:04:00Z, '', false",
        "2027-02-12T10:04:00Z, PT5M, true",
        "2027-02-12T09:56:00Z, PT5M, true",
        "2027-02-12T10:06:00Z, PT5M, false",
        "2027-02-12, P1D, false"
    })
    void aMomentIsWhatItMeansWhereverItIsToldFrom(String expected, String tolerance, boolean passed) {
        Check check = new Check.Value("//hut[1]/opens", expected, tolerance);
        assertThat(of(check, answer(HUTS)).passed()).isEqualTo(passed);
    }

    @Test
    void aToleranceThatIsNoneIsSaid() {
        fails(new Check.Value("//hut[1]/bunks", "12.5", "a bit"), "“a bit” is neither a number nor a duration");
    }

    @Test
    void theMessageIsSearchedAsItCame() {
        holds(new Check.MessageText(Check.Match.HAS, "id=\"NF-02\""));
        holds(new Check.MessageText(Check.Match.HAS, "{$area}"));
        holds(new Check.MessageText(Check.Match.MATCHES, "NF-0\\d\"><h:bunks>12<.*NF-03"));
        fails(new Check.MessageText(Check.Match.HAS, "NF-04"), "contains NF-04, found one of ");
        fails(new Check.MessageText(Check.Match.MATCHES, "("), "(");
    }

    @Test
    void headersStatusAndSizeAreJudged() {
        holds(new Check.HeaderIs("content-type", Check.Match.HAS, "charset=utf-8"));
        fails(
                new Check.HeaderIs("Content-Type", Check.Match.IS, "text/html"),
                "should be text/html, found text/xml; charset=utf-8");
        fails(new Check.HeaderIs("ETag", Check.Match.IS, "x"), "found no such header");
        holds(new Check.StatusIs("404, 2xx"));
        holds(new Check.StatusIs("200-204"));
        fails(new Check.StatusIs("3xx,201"), "should be 3xx,201, found 200");
        fails(new Check.StatusIs("fine"), "“fine” is no status");
        holds(new Check.SizeAtMost(HUTS.length()));
        fails(new Check.SizeAtMost(HUTS.length() - 1), "found " + HUTS.length() + " bytes");
    }

    @Test
    void nodesAreCountedAndHeldOneByOne() {
        holds(new Check.Present("/Huts/@area"));
        fails(new Check.Present("/Huts/@season"), "should be something, found nothing (/Huts/@season)");
        holds(new Check.Count("//hut", 3, 3));
        holds(new Check.Count("//hut", 2, Long.MAX_VALUE));
        fails(new Check.Count("//hut", 4, Long.MAX_VALUE), "should be at least 4, found 3");
        fails(new Check.Count("//hut", 1, 2), "should be 1 to 2, found 3");
        holds(new Check.Each("//hut", true, "bunks >= 8"));
        fails(new Check.Each("//hut", true, "opens"), "2 of 3, the first that does not is number 3");
        fails(new Check.Each("//lodge", true, "true()"), "found none is there");
        holds(new Check.Each("//hut", false, "@id = 'NF-03'"));
        fails(new Check.Each("//hut", false, "@id = 'NF-04'"), "0 of 3");
    }

    @Test
    void setsOfValuesAreComparedInOrderOrInAny() {
        holds(new Check.Items("//hut/@id", List.of("NF-01", "NF-02", "NF-03"), true));
        fails(
                new Check.Items("//hut/@id", List.of("NF-02", "NF-01", "NF-03"), true),
                "should be NF-02, NF-01, NF-03, found NF-01, NF-02, NF-03");
        holds(new Check.Items("//hut/@id", List.of("NF-02", "NF-01", "NF-03"), false));
        holds(new Check.Items("//bunks", List.of("8", "8", "12"), false));
        fails(new Check.Items("//bunks", List.of("8", "12", "12"), false), "in any order");
        fails(new Check.Items("//bunks", List.of("8", "12"), false), "should be 8, 12 in any order");
    }

    @Test
    void partsAreKnownByNumberAndByContentId() {
        Answer with = answer(PARTS.formatted(HUTS), new Header("Content-Type", "multipart/related; boundary=b"));
        assertThat(of(new Check.PartCount(1), with).passed()).isTrue();
        assertThat(of(new Check.PartCount(2), with).finding()).isEqualTo("should be 2, found 1");
        assertThat(of(new Check.PartIs("cairn@huts", Check.PartIs.Fact.TYPE, "image/png"), with)
                        .passed())
                .isTrue();
        assertThat(of(new Check.PartIs("1", Check.PartIs.Fact.BYTES, "3"), with).passed())
                .isTrue();
        String abc = "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad";
        assertThat(of(new Check.PartIs("1", Check.PartIs.Fact.SHA256, abc), with)
                        .passed())
                .isTrue();
        assertThat(of(new Check.PartIs("2", Check.PartIs.Fact.TYPE, "image/png"), with)
                        .finding())
                .contains("no such part; there are 1");
    }

    @Test
    void theBaselineIsHeldAgainstWithoutWhatIsLeftOut() {
        String payload = HUTS.substring(HUTS.indexOf("<h:Huts"), HUTS.indexOf("</e:Body>"));
        Baseline same = new Baseline(Instant.EPOCH, List.of(), payload.replace("\n", " "));
        Baseline other = new Baseline(Instant.EPOCH, List.of(), payload.replace(">12<", ">14<"));
        Check check = new Check.SameAsBaseline();
        Answer now = answer(HUTS);
        assertThat(checker.check(List.of(check), now, Scope.EMPTY, Optional.of(same))
                        .get(0)
                        .passed())
                .isTrue();
        CheckResult differs = checker.check(List.of(check), now, Scope.EMPTY, Optional.of(other))
                .get(0);
        assertThat(differs.finding()).contains("1 changed").contains("/Huts/hut[1]/bunks: 14 → 12");
        assertThat(checker.check(List.of(check), now, Scope.EMPTY, Optional.of(other.leaving(List.of("//bunks"))))
                        .get(0)
                        .passed())
                .isTrue();
        assertThat(of(check, now).finding()).contains("no baseline");
    }

    @Test
    void securityIsVerifiedOrNothingIsSaidForIt() {
        assertThat(of(new Check.Secured(), answer(HUTS)).finding()).contains("nothing was verified");
        assertThat(of(new Check.Secured(), answer(HUTS).verified(Optional.of("signed by CN=Huts")))
                        .found())
                .isEqualTo("signed by CN=Huts");
    }

    static List<Check> negatable() {
        return List.of(
                new Check.Value("//hut[1]/bunks", "13"),
                new Check.Condition("false()"),
                new Check.MessageText(Check.Match.HAS, "NF-04"),
                new Check.HeaderIs("Content-Type", Check.Match.IS, "text/html"),
                new Check.StatusIs("500"),
                new Check.Present("//lodge"),
                new Check.Count("//hut", 9, 9),
                new Check.Each("//hut", true, "false()"),
                new Check.Items("//hut/@id", List.of(), true),
                new Check.PartCount(4),
                new Check.FaultIs("Full"));
    }

    @ParameterizedTest
    @MethodSource("negatable")
    void theOppositeHoldsWhereItIsNotMetButNotWhereThereIsNoAnswer(Check check) {
        Check not = new Check.Not(check);
        holds(not);
        assertThat(of(not, answer(null)).passed()).as("without an answer").isFalse();
        assertThat(of(not, answer(null)).title()).isEqualTo(not.title());
    }

    @Test
    void theOppositeOfWhatIsMetSaysSo() {
        fails(new Check.Not(new Check.Count("//hut", 3, 3)), "should be otherwise, found 3");
        fails(new Check.Not(new Check.Value("//lodge", "x")), "nothing at that path");
        fails(new Check.Not(new Check.Condition("1 +")), "does not parse");
    }

    @Test
    void whatStopsARunIsJudgedAsWhatItSays() {
        Check stopping = new Check.Stopping(new Check.Not(new Check.Within(1)));
        assertThat(stopping.stops()).isTrue();
        assertThat(stopping.bare()).isEqualTo(new Check.Within(1));
        holds(new Check.Stopping(new Check.Count("//hut", 3, 3)));
    }

    @Test
    void aHeaderBlockThatTheContractNamesIsJudgedWhereItIsThere() {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(Contracts.schema(
                                "<xs:element name='Root' type='xs:int'/><xs:element name='Left' type='xs:int'/>"))
                        .replace(
                                "</message>", "</message><message name='H'><part name='l' element='t:Left'/></message>")
                        .replace(
                                "<output><soap:body use=\"literal\"/>",
                                "<output><soap:header message='tns:H' part='l' use='literal'/><soap:body use='literal'/>"));
        assertThat(contract.operation("Do", null)
                        .orElseThrow()
                        .operation()
                        .output()
                        .orElseThrow()
                        .headers())
                .hasSize(1);
        assertThat(valid(contract, "").passed()).isTrue();
        assertThat(valid(contract, "<t:Left xmlns:t='urn:t'>3</t:Left>").passed())
                .isTrue();
        assertThat(valid(contract, "<x:Own xmlns:x='urn:x'>many</x:Own>").passed())
                .as("a block that the contract does not name")
                .isTrue();
        assertThat(valid(contract, "<t:Left xmlns:t='urn:t'>many</t:Left>").finding())
                .contains("many")
                .contains("Left");
    }

    private CheckResult valid(Contract contract, String blocks) {
        String body = "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Header>" + blocks
                + "</e:Header><e:Body><t:Root xmlns:t='urn:t'>1</t:Root></e:Body></e:Envelope>";
        Exchange exchange = answer(body).exchange();
        Answer read = Answer.of(
                exchange,
                MessageOutline.ofAnswer(
                        contract, contract.operation("Do", null).orElseThrow().operation()),
                expressions);
        return of(new Check.Valid(), read);
    }
}
