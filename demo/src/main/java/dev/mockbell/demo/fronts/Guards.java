package dev.mockbell.demo.fronts;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpHandler;
import dev.mockbell.content.Content;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.xml.Markup;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Duration;
import java.util.List;

/** What stands before the handler of a service. */
final class Guards {
    private Guards() {}

    /** Looks at a message before the service does, and at the answer before the client does. */
    interface Guard {
        /**
         * Lets the message through.
         *
         * @return what is done with the answer
         * @throws Exception when it may not go through
         */
        Answering through(SecuredMessage message) throws Exception;

        /** Whether what a message leaves to parts is protected too. */
        default boolean covering() {
            return false;
        }
    }

    /** Makes of an answer what the client gets. */
    interface Answering {
        Content of(Content answer) throws Exception;
    }

    /**
     * A handler that looks at messages before another has them; what only is to be read, the WSDL, is for everybody. It is no
     * filter, since those come before a login.
     */
    static HttpHandler messages(Guard guard, HttpHandler service) {
        return exchange -> {
            if (!"POST".equals(exchange.getRequestMethod())) {
                service.handle(exchange);
                return;
            }
            HeldExchange held;
            Answering answering;
            try {
                SecuredMessage message =
                        SecuredMessage.read(exchange.getRequestBody(), exchange.getRequestHeaders(), guard.covering());
                answering = guard.through(message);
                held = new HeldExchange(exchange, message.plain());
            } catch (Exception refused) {
                refuse(exchange, refused);
                return;
            }
            service.handle(held);
            try {
                held.release(held.answered().isEmpty() ? held.answered() : answering.of(held.answered()));
            } catch (IOException gone) {
                throw gone;
            } catch (Exception broken) {
                throw new IOException(broken);
            }
        };
    }

    /** With a fault, as SOAP Message Security 1.1.1 §12 has it. */
    private static void refuse(HttpExchange exchange, Exception why) throws IOException {
        SoapVersion version = String.valueOf(exchange.getRequestHeaders().getFirst("Content-Type"))
                        .contains(SoapVersion.V12.mediaType())
                ? SoapVersion.V12
                : SoapVersion.V11;
        String reason = Markup.anywhere(Problem.reason(why));
        String opened = "<soap:Fault xmlns:wsse=\"" + SecuredMessage.WSSE + "\">";
        String fault = version == SoapVersion.V11
                ? opened + "<faultcode>wsse:FailedAuthentication</faultcode><faultstring>" + reason
                        + "</faultstring></soap:Fault>"
                : opened + "<soap:Code><soap:Value>soap:Sender</soap:Value><soap:Subcode><soap:Value>"
                        + "wsse:FailedAuthentication</soap:Value></soap:Subcode></soap:Code><soap:Reason><soap:Text xml:lang=\"en\">"
                        + reason + "</soap:Text></soap:Reason></soap:Fault>";
        Content body = SecuredMessage.text(Envelope.around(version, fault, List.of()));
        exchange.getRequestBody().transferTo(OutputStream.nullOutputStream());
        exchange.getResponseHeaders().set("Content-Type", version.mediaType() + "; charset=utf-8");
        exchange.sendResponseHeaders(500, body.size());
        exchange.getResponseBody().write(body.bytes());
        exchange.close();
    }

    /** Makes everybody wait. */
    static HttpHandler slow(Duration time, HttpHandler service) {
        return exchange -> {
            try {
                Thread.sleep(time.toMillis());
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            service.handle(exchange);
        };
    }
}
