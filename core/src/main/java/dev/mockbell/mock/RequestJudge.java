package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.security.RequestSecurity;
import dev.mockbell.security.Token;
import dev.mockbell.soap.References;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.wire.CertificateFile;
import java.util.List;
import java.util.Optional;
import org.codehaus.stax2.XMLInputFactory2;

/** Who may call a mock, and whether what he says is valid. Safe for many threads. */
final class RequestJudge {
    private final RequestRules rules;
    private final Contract contract;
    private final XMLInputFactory2 xml;
    /** User and password as Basic has them; empty when it is not asked for. */
    private final Optional<String> basic;

    private final Optional<RequestSecurity> security;

    RequestJudge(
            RequestRules rules,
            Contract contract,
            XMLInputFactory2 xml,
            MockSurroundings around,
            MockFiles files,
            MockState state) {
        this.rules = rules;
        this.contract = contract;
        this.xml = xml;
        AskedLogin asked = rules.login();
        this.basic = asked.isByHttp()
                ? Optional.of(asked.user() + ":" + around.keys().secret(asked.password()))
                : Optional.empty();
        this.security = asked.looksAtEnvelope()
                ? Optional.of(state.security(asked, () -> security(asked, around, files)))
                : Optional.empty();
    }

    private static RequestSecurity security(AskedLogin asked, MockSurroundings around, MockFiles files) {
        Optional<RequestSecurity.Login> login =
                asked.way() == AskedLogin.Way.NONE || asked.way() == AskedLogin.Way.BASIC
                        ? Optional.empty()
                        : Optional.of(new RequestSecurity.Login(
                                asked.way() == AskedLogin.Way.TOKEN_DIGEST ? Token.DIGEST : Token.TEXT,
                                asked.user(),
                                around.keys().secret(asked.password())));
        return new RequestSecurity(
                login, asked.signed() ? CertificateFile.read(files.file(asked.signers())) : List.of());
    }

    /** Why somebody is not let in who says who he is by HTTP, or does not; empty when he is. */
    Optional<Refusal> stranger(MockRequest request) {
        if (basic.isEmpty()) {
            return Optional.empty();
        }
        Optional<String> login = Callers.login(request.http().get().getOrDefault("authorization", ""));
        return login.equals(basic)
                ? Optional.empty()
                : Optional.of(Refusal.login(
                        SoapVersion.V11,
                        login.isEmpty()
                                ? "A login by Basic is asked for."
                                : "The user name or the password is not right."));
    }

    /** Whether each request is looked at as a whole before it is answered, which is work. */
    boolean looksAtAll() {
        return rules.schema() || security.isPresent();
    }

    /** Why a request is refused that has to be looked at as a whole; empty when it is not. Work. */
    Optional<Refusal> refuses(MockRequest request, Target target) {
        if (security.isPresent()) {
            SoapMessage message = SoapMessage.parse(request.body(), "request");
            Optional<RequestSecurity.Refused> no = security.get().refuses(message.document());
            if (no.isPresent()) {
                return Optional.of(Refusal.security(
                        message.version(), no.get().code(), no.get().why()));
            }
        }
        return rules.schema() ? invalid(request, target) : Optional.empty();
    }

    /** What breaks the schema; work. */
    private Optional<Refusal> invalid(MockRequest request, Target target) {
        Optional<MessageOutline> outline = target.input();
        if (outline.isEmpty()) {
            return Optional.empty();
        }
        MessageValidator validator = new MessageValidator(contract.schemas());
        // nearly all are valid, and that costs a fraction of telling what is not
        if (!target.isEncoded()
                && RequestReading.atPayload(xml, request.body(), r -> validator.surelyTakes(outline.get(), r))) {
            return Optional.empty();
        }
        SoapMessage message = SoapMessage.parse(request.body(), "request");
        if (target.isEncoded()) {
            References.inPlace(message);
        }
        List<MessageValidator.Breach> breaches = validator.validate(outline.get(), message);
        return breaches.isEmpty()
                ? Optional.empty()
                : Optional.of(Refusal.fault(
                        message.version(),
                        SoapFault.Code.SENDER,
                        "The request is not valid: " + breaches.get(0).text() + " (at "
                                + breaches.get(0).path() + ")"
                                + (breaches.size() > 1 ? ", and " + (breaches.size() - 1) + " more" : "") + "."));
    }
}
