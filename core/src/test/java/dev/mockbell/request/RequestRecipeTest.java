package dev.mockbell.request;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.content.Header;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.SecretHosts;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.CallRequest;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class RequestRecipeTest {
    private static final String BODY = "<s:Book xmlns:s=\"urn:northfell:stay\"><s:nights>{$nights}</s:nights></s:Book>";
    private static final Set<String> NONE = Set.of();

    private final Expressions expressions = new Expressions();
    private final BoundOperation bound =
            Contracts.stay().operation("Book", "StaySoap11").orElseThrow();

    private RequestRecipe recipe(String endpoint, RequestText text) {
        return RequestRecipe.of(bound, text, Optional.ofNullable(endpoint));
    }

    private static RequestText text(String body, Header... headers) {
        return new RequestText(body, "", List.of(headers));
    }

    private CallRequest make(RequestRecipe recipe, Scope scope) {
        return recipe.make(Filler.of(expressions, scope));
    }

    private static String body(CallRequest request) {
        return request.body().text(StandardCharsets.UTF_8);
    }

    private static List<String> values(CallRequest request, String name) {
        return request.headers().stream()
                .filter(h -> h.name().equalsIgnoreCase(name))
                .map(Header::value)
                .toList();
    }

    @Test
    void oneSoapActionIsSentAlsoWhenTheCaseHasItsOwn() {
        Scope scope = Scope.EMPTY.with("nights", "2");
        assertThat(values(make(recipe("http://a.example/", text(BODY)), scope), "SOAPAction"))
                .containsExactly("\"urn:stay:book\"");
        CallRequest own =
                make(recipe("http://a.example/", text(BODY, new Header("soapaction", "\"urn:other\""))), scope);
        assertThat(values(own, "SOAPAction")).containsExactly("\"urn:other\"");
        assertThat(values(own, "Content-Type")).containsExactly("text/xml; charset=utf-8");
    }

    @Test
    void severalFieldsOfOneNameAreAllTheUsersOwn() {
        CallRequest made = make(
                recipe("http://a.example/", text("<a/>", new Header("X-Trace", "1"), new Header("x-trace", "{1 + 1}"))),
                Scope.EMPTY);
        assertThat(values(made, "X-Trace")).containsExactly("1", "2");
    }

    @Test
    void aValueCannotPutInAHeaderOfItsOwn() {
        RequestRecipe recipe = recipe("http://a.example/", text("<a/>", new Header("X-Name", "{$name}")));
        assertThatThrownBy(() -> make(recipe, Scope.EMPTY.with("name", "a\r\nHost: evil")))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("X-Name")
                .hasMessageContaining("line break");
        assertThatThrownBy(() -> make(recipe("http://a.example/", text("<a/>", new Header("X\nY", "1"))), Scope.EMPTY))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("cannot be the name of a header");
    }

    @Test
    void whatIsFilledIntoTheEnvelopeCannotBecomeMarkup() {
        CallRequest made =
                make(recipe("http://a.example/", text(BODY)), Scope.EMPTY.with("nights", "2</s:nights><x/>"));
        assertThat(body(made)).contains("2&lt;/s:nights").doesNotContain("<x/>");
    }

    @Test
    void blocksOfTheSoapHeaderAreFilledAndStandInTheHeader() {
        RequestText text = new RequestText("<a/>", "<t:Id xmlns:t='urn:t'>{$id}</t:Id>", List.of());
        String made = body(make(recipe("http://a.example/", text), Scope.EMPTY.with("id", "7")));
        assertThat(made.indexOf(">7<")).isPositive().isLessThan(made.indexOf("Body>"));
    }

    @ParameterizedTest
    @CsvSource({
        "plain, NEVER",
        "{$nights}, NEVER",
        "{$code}, WITH_CAPTURES",
        "{concat($nights; $code)}, WITH_CAPTURES",
        "{bell:random('xs:date')}, EVERY_CALL",
        "{current-dateTime()}, EVERY_CALL",
        "{$code}{bell:uuid()}, EVERY_CALL",
        "{{$code}}, NEVER",
    })
    void aRequestKnowsWhenItCanBecomeAnother(String value, Changes when) {
        RequestText text = text("<a>" + value.replace(';', ',') + "</a>");
        assertThat(recipe("http://a.example/", text).changes(Set.of("code"))).isEqualTo(when);
        RequestText head = text("<a/>", new Header("X", value.replace(';', ',')));
        assertThat(recipe("http://a.example/", head).changes(Set.of("code"))).isEqualTo(when);
    }

    @Test
    void whatCannotChangeIsFilledOnceAndTheRestWithEveryRequest() {
        Filler before = Filler.of(expressions, Scope.EMPTY.with("nights", "2"));
        RequestRecipe settled = recipe("http://a.example/{$nights}", text("<a n='{$nights}'>{$code}</a>"))
                .settled(before, Set.of("code"));
        assertThat(settled.address()).hasToString("http://a.example/2");
        assertThat(settled.changes(Set.of("code"))).isEqualTo(Changes.WITH_CAPTURES);
        // nights is not known any more: it has been worked out
        CallRequest first = make(settled, Scope.EMPTY.with("code", "R-1"));
        CallRequest second = make(settled, Scope.EMPTY.with("code", "R-2"));
        assertThat(body(first)).contains("n='2'>R-1<");
        assertThat(body(second)).contains("n='2'>R-2<");
    }

    @Test
    void underLoadTheAddressMustBeTheSameThroughout() {
        RequestRecipe recipe = recipe("http://a.example/{$code}", text("<a/>"));
        assertThatThrownBy(() -> recipe.settled(Filler.of(expressions, Scope.EMPTY), Set.of("code")))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("changes from request to request");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "ftp://a.example/",
                "a.example/x",
                "http://",
                "http://a b/",
                "http://a.example:99999/",
                "http://a.example:0/",
                "file:///etc/passwd",
                "javascript:1",
            })
    void whatIsNoAddressIsRefusedInWords(String address) {
        assertThatThrownBy(() -> RequestRecipe.checkAddress(address)).isInstanceOf(Problem.class);
        assertThatThrownBy(() -> make(recipe(address, text("<a/>")), Scope.EMPTY))
                .isInstanceOf(Problem.class);
    }

    @Test
    void anAddressOfTheContractIsNoTemplate() {
        assertThat(RequestRecipe.of(bound, text("<a/>"), Optional.empty()).changes(NONE))
                .isEqualTo(Changes.NEVER);
    }

    @Test
    void aSecretGoesOnlyWhereItMay() {
        Scope scope = Scope.EMPTY.withSecret("token", "s3cret");
        RequestText text = text("<a/>", new Header("Authorization", "Bearer {$secret:token}"));
        assertThatThrownBy(() -> make(recipe("http://a.example/", text), scope))
                .isInstanceOf(Problem.class)
                .extracting(p -> ((Problem) p).kind())
                .isEqualTo(Problem.Kind.SECRET_WITHHELD);
        assertThat(values(make(recipe("http://127.0.0.1/", text), scope), "Authorization"))
                .containsExactly("Bearer s3cret");
        Scope allowed = scope.with(new SecretHosts(Set.of("a.example")));
        assertThat(values(make(recipe("http://a.example/", text), allowed), "Authorization"))
                .containsExactly("Bearer s3cret");
        assertThatThrownBy(() -> make(recipe("http://b.example/", text), allowed))
                .isInstanceOf(Problem.class);
    }

    @Test
    void theHostCannotComeFromASecret() {
        Scope scope = Scope.EMPTY.withSecret("token", "s3cret.example").with(new SecretHosts(Set.of("a.example")));
        assertThatThrownBy(() -> make(recipe("http://{$secret:token}/", text("<a/>")), scope))
                .isInstanceOf(Problem.class);
        assertThatThrownBy(() -> make(recipe("http://a.example.{$secret:token}/", text("<a/>")), scope))
                .isInstanceOf(Problem.class);
        assertThat(make(recipe("http://a.example/{$secret:token}", text("<a/>")), scope)
                        .address())
                .hasToString("http://a.example/s3cret.example");
    }
}
