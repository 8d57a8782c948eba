package dev.mockbell.demo;

import com.sun.xml.ws.developer.SchemaValidation;
import jakarta.jws.WebService;
import java.time.Clock;

/** The SOAP 1.1 port; requests that break the schema are refused. */
@WebService(
        serviceName = "HutBooking",
        portName = "HutBookingSoap11",
        targetNamespace = "urn:northfell:hut-booking:service",
        endpointInterface = "dev.mockbell.demo.huts.HutBooking",
        wsdlLocation = "dev/mockbell/demo/hut-booking.wsdl")
@SchemaValidation
public final class HutServiceSoap11 extends HutService {
    HutServiceSoap11(HutRegister register, Clock clock) {
        super(register, clock);
    }
}
