package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.content.Content;
import dev.mockbell.content.Header;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.Timing;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** Answers made of what was asked and answered before. */
@Timeout(60)
class LearningTest {
    private final MockUnderTest mock = new MockUnderTest();

    @AfterEach
    void close() {
        mock.close();
    }

    private static HttpMessage message(String title, String body) {
        byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
        return new HttpMessage(
                title,
                List.of(new Header("Content-Type", "text/xml; charset=utf-8")),
                Content.of(bytes),
                Content.of(bytes));
    }

    private static Exchange exchange(String operation, String request, Optional<String> answer, long millis) {
        return new Exchange(
                0,
                Instant.now(),
                Way.CALLED,
                "stay",
                operation,
                "http://127.0.0.1/stay",
                "",
                message("POST /stay HTTP/1.1", Envelope.around(SoapVersion.V11, request, List.of())),
                answer.map(a -> message("HTTP/1.1 200 OK", a)),
                new Timing(0, 0, millis * 1_000_000, 0),
                Outcome.FINE,
                "");
    }

    private static Exchange booked(String hut, int nights, String said) {
        return exchange(
                "Book",
                MockUnderTest.book(hut, nights),
                Optional.of(Envelope.around(SoapVersion.V11, "<said>" + said + "</said>", List.of())),
                120);
    }

    private List<MockAnswer> learnt(Exchange... exchanges) {
        Learning.Learnt learnt = Learning.from(mock.stay, List.of(exchanges), false);
        assertThat(learnt.leftOut()).isEmpty();
        return learnt.answers().get("Book");
    }

    private String said(String hut, int nights) {
        return MockUnderTest.value(mock.call(MockUnderTest.book(hut, nights)), "said");
    }

    @Test
    void requestsAreToldApartByTheFieldsThatDiffer() {
        List<MockAnswer> answers = learnt(booked("NF-07", 2, "a"), booked("NF-08", 2, "b"), booked("NF-09", 2, "c"));
        assertThat(answers)
                .extracting(MockAnswer::when)
                .containsExactly("$request//hutId = 'NF-07'", "$request//hutId = 'NF-08'", "$request//hutId = 'NF-09'");
        mock.answering(answers.toArray(MockAnswer[]::new));
        assertThat(List.of(said("NF-08", 2), said("NF-09", 5), said("NF-07", 1)))
                .containsExactly("b", "c", "a");
    }

    @Test
    void asManyFieldsAsItTakesAndNoMore() {
        List<MockAnswer> answers = learnt(
                booked("NF-07", 1, "a"), booked("NF-07", 2, "b"), booked("NF-08", 1, "c"), booked("NF-08", 2, "d"));
        assertThat(answers).allSatisfy(a -> assertThat(a.when()).contains(" and "));
        mock.answering(answers.toArray(MockAnswer[]::new));
        assertThat(List.of(said("NF-08", 2), said("NF-07", 2), said("NF-08", 1), said("NF-07", 1)))
                .containsExactly("d", "b", "c", "a");
    }

    @Test
    void requestsThatAreAlikeAreAnsweredInTheOrderInWhichTheyWere() {
        List<MockAnswer> answers = learnt(
                booked("NF-07", 1, "a"),
                booked("NF-08", 1, "x"),
                booked("NF-07", 1, "a"),
                booked("NF-07", 1, "b"),
                booked("NF-07", 1, "c"));
        assertThat(answers).hasSize(4);
        mock.answering(answers.toArray(MockAnswer[]::new));
        List<String> played = new ArrayList<>();
        for (int i = 0; i < 5; i++) {
            played.add(said("NF-07", 1));
        }
        assertThat(played).containsExactly("a", "a", "b", "c", "c");
        assertThat(said("NF-08", 1)).isEqualTo("x");
    }

    @Test
    void faultsSilenceAndTimeAreLearntToo() {
        String fault = Envelope.around(
                SoapVersion.V11,
                SoapFault.xml(SoapVersion.V11, SoapFault.Code.SENDER, "no {room}", "<full left=\"{0}\"/>"),
                List.of());
        Learning.Learnt learnt = Learning.from(
                mock.stay,
                List.of(
                        exchange("Book", MockUnderTest.book("NF-07", 1), Optional.of(fault), 30),
                        exchange("Book", MockUnderTest.book("NF-08", 1), Optional.empty(), 40)),
                true);
        List<MockAnswer> answers = learnt.answers().get("Book");
        assertThat(answers.get(0).content()).isInstanceOfSatisfying(AnswerContent.Fault.class, f -> {
            assertThat(f.code()).isEqualTo(SoapFault.Code.SENDER);
            assertThat(f.reason()).isEqualTo("no {{room}}");
        });
        assertThat(answers.get(0).pause()).isEqualTo(new Pause.Fixed(30));
        assertThat(answers.get(1).trouble().kind()).isEqualTo(Trouble.Kind.CLOSED);
        mock.answering(answers.toArray(MockAnswer[]::new));
        assertThat(mock.call(MockUnderTest.book("NF-07", 1)).body())
                .contains("no {room}")
                .contains("left=\"{0}\"");
    }

    @Test
    void valuesWithQuotesAndBracesMeanThemselves() {
        String odd = "NF '07' {x} & \"y\"";
        List<MockAnswer> answers =
                learnt(booked(odd.replace("&", "&amp;"), 1, "{a} {{b}}"), booked("NF-08", 1, "plain"));
        mock.answering(answers.toArray(MockAnswer[]::new));
        assertThat(said(odd.replace("&", "&amp;"), 1)).isEqualTo("{a} {{b}}");
        assertThat(said("NF-08", 1)).isEqualTo("plain");
    }

    @Test
    void fieldsThatSomeRequestsLackTellToo() {
        String without = "<st:Book xmlns:st=\"urn:northfell:stay\"><st:hutId>NF-07</st:hutId></st:Book>";
        String with = without.replace("</st:hutId>", "</st:hutId><st:member>yes</st:member>");
        List<MockAnswer> answers = learnt(
                exchange(
                        "Book",
                        without,
                        Optional.of(Envelope.around(SoapVersion.V11, "<said>no</said>", List.of())),
                        1),
                exchange(
                        "Book", with, Optional.of(Envelope.around(SoapVersion.V11, "<said>yes</said>", List.of())), 1));
        assertThat(answers)
                .extracting(MockAnswer::when)
                .containsExactly("empty($request//member)", "$request//member = 'yes'");
    }

    @Test
    void whatTeachesNothingIsSaid() {
        Learning.Learnt learnt = Learning.from(
                mock.stay,
                List.of(
                        exchange("Swim", "<x/>", Optional.empty(), 1),
                        exchange("Book", MockUnderTest.book("NF-07", 1), Optional.of("<html/>"), 1)),
                false);
        assertThat(learnt.answers()).isEmpty();
        assertThat(learnt.leftOut()).hasSize(2);
        assertThat(learnt.leftOut().get(0)).contains("Swim");
        assertThat(learnt.leftOut().get(1)).startsWith("Book: ");
    }

    @Test
    void oneExchangeBesideOthersIsForRequestsLikeIt() {
        List<MockAnswer> one = learnt(booked("NF-07", 2, "a"));
        assertThat(one)
                .singleElement()
                .satisfies(a -> assertThat(a.conditional()).isFalse());
        List<MockAnswer> beside = Learning.conditioned(one, Optional.of(booked("NF-07", 2, "a")), true);
        assertThat(beside)
                .singleElement()
                .satisfies(a -> assertThat(a.when()).contains("$request//hutId = 'NF-07' and $request//nights = '2'"));
    }
}
