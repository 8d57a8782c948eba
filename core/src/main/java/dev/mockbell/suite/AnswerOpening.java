package dev.mockbell.suite;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.HttpMessage;
import dev.mockbell.exchange.JmsMessage;
import dev.mockbell.exchange.Message;
import dev.mockbell.problem.Problem;
import dev.mockbell.security.AnswerSecurity;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.xml.XmlText;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Looks at an answer before anything else does: whether it is secured as it should be, and whose answer it is. */
final class AnswerOpening {
    private final AnswerRules rules;
    private Exchange exchange;
    private Optional<String> refusal = Optional.empty();
    private Optional<String> security = Optional.empty();

    private AnswerOpening(AnswerRules rules, Exchange exchange) {
        this.rules = rules;
        this.exchange = exchange;
    }

    /** @param all exchanges of a call, the last with the answer that is looked at */
    static Sent of(AnswerRules rules, List<Exchange> all) {
        Exchange last = all.get(all.size() - 1);
        boolean whole = last.outcome() != Outcome.FAILED
                && last.response().filter(r -> !r.body().isEmpty()).isPresent();
        boolean looks = rules.security().isPresent() || rules.addressing().isSpoken();
        if (!whole || !looks) {
            return new Sent(all, Optional.empty(), Optional.empty());
        }
        AnswerOpening opening = new AnswerOpening(rules, last);
        try {
            SoapMessage answer = SoapMessage.of(last.response().get(), "answer");
            rules.security().ifPresent(a -> opening.open(answer, a));
            opening.relate(answer);
        } catch (Problem noEnvelope) {
            // that is told by whoever reads it next
            return new Sent(all, Optional.empty(), Optional.empty());
        }
        List<Exchange> opened = new ArrayList<>(all);
        opened.set(all.size() - 1, opening.exchange);
        return new Sent(opened, opening.refusal, opening.security);
    }

    /** Who refuses a request may not know whom to sign for, or what to relate to. */
    private void refuse(SoapMessage answer, String why) {
        if (answer.fault().isEmpty() && refusal.isEmpty()) {
            refusal = Optional.of(rules.redactor().text(why));
        }
    }

    private void note(String words) {
        if (!words.isEmpty()) {
            String all = exchange.note().isEmpty() ? words : exchange.note() + "; " + words;
            exchange = exchange.withOutcome(exchange.outcome(), rules.redactor().text(all));
        }
    }

    private void open(SoapMessage answer, AnswerSecurity security) {
        try {
            AnswerSecurity.Opened opened = security.open(answer.document());
            note(opened.words());
            this.security = Optional.of(opened.words()).filter(w -> !w.isEmpty());
            if (opened.decrypted()) {
                exchange = exchange.withResponse(plain(exchange.response().orElseThrow(), answer));
            }
        } catch (Problem problem) {
            refuse(answer, problem.getMessage());
        }
    }

    /** The message as it reads decrypted; its wire bytes stay as they came. */
    private static Message plain(Message response, SoapMessage soap) {
        String text = XmlText.exact(soap.document());
        String declared = text.startsWith("<?xml") ? text.substring(text.indexOf("?>") + 2) : text;
        Content body =
                Content.of(("<?xml version=\"1.0\" encoding=\"UTF-8\"?>" + declared).getBytes(StandardCharsets.UTF_8));
        return response.accept(new Message.Visitor<>() {
            @Override
            public Message http(HttpMessage message) {
                return new HttpMessage(message.title(), message.headers(), body, message.wire());
            }

            @Override
            public Message jms(JmsMessage message) {
                return new JmsMessage(message.title(), message.headers(), body, message.wire());
            }
        });
    }

    private void relate(SoapMessage answer) {
        if (!rules.addressing().isSpoken()) {
            return;
        }
        SoapMessage asked = SoapMessage.of(exchange.request(), "request");
        rules.addressing()
                .unrelated(asked, answer)
                .filter(u -> answer.fault().isEmpty())
                .ifPresent(u -> {
                    if (u.toAnother()) {
                        refuse(answer, u.words());
                    } else {
                        note(u.words());
                    }
                });
    }
}
