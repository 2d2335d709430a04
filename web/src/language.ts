import { i18n } from '@lingui/core'
import { compileMessage } from '@lingui/message-utils/compileMessage'

/*
 * The language is settled before any other module is read, so that a sentence may stand in a
 * constant. English stands in the code and needs no catalogue; `make strings` takes it out.
 */
i18n.setMessagesCompiler(compileMessage)
i18n.loadAndActivate({ locale: 'en', messages: {} })
